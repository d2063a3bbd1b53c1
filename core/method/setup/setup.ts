import type { Setup } from "../../records/setup.ts";

const R_AIR = 287.05;
const GAMMA = 1.4;

/** Density of air as a perfect gas, kg/m^3. */
export function airDensity(temperatureK: number, pressurePa: number): number {
  return pressurePa / (R_AIR * temperatureK);
}

/** Dynamic viscosity of air, Pa s, 170 K to 1900 K. @source Sutherland's law; White, Viscous Fluid Flow, table 1-2. */
export function airViscosity(temperatureK: number): number {
  return 1.716e-5 * (temperatureK / 273) ** 1.5 * ((273 + 111) / (temperatureK + 111));
}

/** Dynamic viscosity of liquid water, Pa s, 273 K to 373 K. @source White, Viscous Fluid Flow, eq. 1-41 (fit within 1 %). */
export function waterViscosity(temperatureK: number): number {
  const z = 273 / temperatureK;
  return 1.788e-3 * Math.exp(-1.704 - 5.306 * z + 7.003 * z * z);
}

/** Density of liquid water, kg/m^3, 273 K to 373 K. @source White, Fluid Mechanics, eq. 1.14 form: 1000 - 0.0178 |T - 4 C|^1.7. */
export function waterDensity(temperatureK: number): number {
  return 1000 - 0.0178 * Math.abs(temperatureK - 277.15) ** 1.7;
}

/** Kinematic viscosity from whichever was typed, m^2/s. */
export function kinematicViscosity(s: Setup): number {
  if (s.dynamicViscosityPaS !== undefined) return s.dynamicViscosityPaS / s.densityKgM3;
  return s.kinematicViscosityM2S ?? Number.NaN;
}

/** Reynolds number of the set-up by its reference length and velocity. */
export function reynoldsNumber(s: Setup): number {
  return (s.velocityMS * s.lengthM) / kinematicViscosity(s);
}

/** How far a value is from what it should be, as a share. */
export const away = (value: number, expected: number): number => Math.abs(value / expected - 1);

/** Entry length of laminar pipe flow, diameters. @source Durst, Ray, Unsal & Bayoumi, J. Fluids Eng. 127 (2005) 1154. */
export function pipeEntryDiameters(reynolds: number): number {
  return (0.619 ** 1.6 + (0.0567 * reynolds) ** 1.6) ** (1 / 1.6);
}

export interface SimilarityNumber {
  readonly key: string;
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  readonly formula: string;
}

/** Those that are pure numbers and say where a case lies, whatever it is counted in. */
export const pureNumbers = (numbers: readonly SimilarityNumber[]): SimilarityNumber[] => numbers.filter((s) => s.unit === "1" && s.value > 0);

/** Similarity numbers and expected magnitudes worked out from a set-up. */
export function similarityNumbers(s: Setup): SimilarityNumber[] {
  const nu = kinematicViscosity(s);
  const viscous: SimilarityNumber[] = [
    {
      key: "reynolds",
      name: "Reynolds number",
      value: reynoldsNumber(s),
      unit: "1",
      formula: `${s.velocityName} × ${s.lengthName} / ν`,
    },
    { key: "nu", name: "kinematic viscosity", value: nu, unit: "m^2/s", formula: "μ / ρ" },
  ];
  const out: SimilarityNumber[] = [
    ...(s.inviscid ? [] : viscous),
    { key: "dynamicPressure", name: "dynamic pressure", value: 0.5 * s.densityKgM3 * s.velocityMS ** 2, unit: "Pa", formula: "ρ U² / 2" },
  ];
  const c = soundSpeed(s);
  if (c !== undefined) out.push({ key: "mach", name: "Mach number", value: s.velocityMS / c, unit: "1", formula: "U / c" });
  const time = s.lengthM ** 2 / nu;
  if (!s.inviscid) out.push({ key: "diffusionTime", name: "viscous time", value: time, unit: "s", formula: `${s.lengthName}² / ν` });
  if (s.entry) out.push({ key: "entryLength", name: "entry length", value: platesEntryLength(s), unit: "m", formula: "Chen 1973, plates" });
  return [...out, ...heatNumbers(s, nu), ...expected(s)];
}

/** Prandtl and Rayleigh number, where the set-up is heated. */
function heatNumbers(s: Setup, nu: number): SimilarityNumber[] {
  const h = s.heat;
  if (!h || s.inviscid) return [];
  const out: SimilarityNumber[] = [{ key: "prandtl", name: "Prandtl number", value: h.prandtl, unit: "1", formula: "ν / a" }];
  if (h.expansionPerK !== undefined && h.differenceK !== undefined && h.gravityMS2 !== undefined)
    out.push({
      key: "rayleigh",
      name: "Rayleigh number",
      value: (h.gravityMS2 * h.expansionPerK * h.differenceK * s.lengthM ** 3 * h.prandtl) / (nu * nu),
      unit: "1",
      formula: `g β ΔT ${s.lengthName}³ Pr / ν²`,
    });
  return out;
}

const LAMINAR_PIPE = 2300;

/** What a plain estimate lets expect: entry length and friction of a pipe, drag of a plate, force on a frontal area. */
function expected(s: Setup): SimilarityNumber[] {
  const f = s.facts ?? {};
  const nu = kinematicViscosity(s);
  const pressure = 0.5 * s.densityKgM3 * s.velocityMS ** 2;
  const out: SimilarityNumber[] = [];
  if (f.pipeDiameterM > 0) {
    const re = (s.velocityMS * f.pipeDiameterM) / nu;
    const laminar = re < LAMINAR_PIPE;
    out.push({
      key: "pipeEntry",
      name: "entry length of the pipe",
      value: f.pipeDiameterM * (laminar ? pipeEntryDiameters(re) : 1.6 * re ** 0.25),
      unit: "m",
      formula: laminar ? "Durst et al. 2005" : "1.6 Re^0.25 D, Anselmet et al. 2009",
    });
    out.push({
      key: "friction",
      name: "friction factor to expect (Darcy)",
      value: laminar ? 64 / re : 0.316 / re ** 0.25,
      unit: "1",
      formula: laminar ? "64 / Re" : "0.316 / Re^0.25, Blasius, smooth",
    });
  }
  if (f.dragCoefficient !== undefined && f.referenceAreaM2 > 0)
    out.push({ key: "drag", name: "drag to expect", value: f.dragCoefficient * f.referenceAreaM2 * pressure, unit: "N", formula: "c_d A ρ U² / 2" });
  return out;
}

/** Which of the fluids known here a name means, as a whole word of its own: "dairy cream" is no air, "sea water" no water. */
export function knownFluid(name: string): "air" | "water" | undefined {
  const words = name.toLowerCase().match(/[a-z]+/g) ?? [];
  const plain = words.filter(
    (w) => !["cold", "warm", "dry", "cool", "hot", "still", "fresh", "pure", "liquid", "room", "ambient", "standard", "tap"].includes(w),
  );
  return plain.length === 1 && (plain[0] === "air" || plain[0] === "water") ? plain[0] : undefined;
}

/** Speed of sound where the fluid is known, m/s. */
export function soundSpeed(s: Setup): number | undefined {
  if (s.soundSpeedMS !== undefined) return s.soundSpeedMS;
  const fluid = knownFluid(s.fluidName);
  if (fluid === "air" && s.temperatureK) return Math.sqrt(GAMMA * R_AIR * s.temperatureK);
  return fluid === "water" ? 1480 : undefined;
}

/** Entry length between plates, m. @source Chen, J. Fluids Eng. 95 (1973) 153: Le/Dh = 0.315/(1 + 0.0175 Re) + 0.011 Re. */
export function platesEntryLength(s: Setup): number {
  const dh = 2 * (s.entry?.gapM ?? Number.NaN);
  // The mean velocity carries the flow through the duct, not its largest.
  const re = ((s.entry?.meanVelocityMS ?? s.velocityMS) * dh) / kinematicViscosity(s);
  return dh * (0.315 / (1 + 0.0175 * re) + 0.011 * re);
}
