import { integrate, type Slope } from "../numeric/ode.ts";
import { pchip } from "../numeric/pchip.ts";
import { remembered } from "../numeric/remembered.ts";
import { PRANDTL } from "./parameters.ts";
import { solution, within } from "./solution.ts";

/** f''' + 3 f f'' - 2 f'^2 + theta = 0, theta'' + 3 Pr f theta' = 0 with f = f' = 0, theta = 1 at the wall, f' and theta going to 0. */
interface Layer {
  /** f''(0) and -theta'(0) */
  readonly shear: number;
  readonly heat: number;
  /** f, f', f'', theta, theta' at ascending places */
  readonly at: (eta: readonly number[]) => Float64Array[];
  /** where it has ended */
  readonly far: number;
}

/** where the search for the two slopes at the wall begins, over the decades of the Prandtl number */
const BEGIN = { decade: [-2, -1, 0, 1, 2, 3], shear: [0.99, 0.86, 0.64, 0.42, 0.25, 0.145], heat: [0.08, 0.23, 0.57, 1.17, 2.19, 3.97] };
/** far ends, one after another: a long shot at once runs away */
const REACHES = [0.14, 0.2, 0.3, 0.5, 1];
const NEWTONS = 30;

const slope = (prandtl: number) => (_: number, y: Float64Array, out: Float64Array) => {
  out[0] = y[1];
  out[1] = y[2];
  out[2] = -3 * y[0] * y[2] + 2 * y[1] * y[1] - y[3];
  out[3] = y[4];
  out[4] = -3 * prandtl * y[0] * y[4];
};

/** Solves the layer by shooting from the wall, further out at each step. @throws {RangeError} The two slopes are not found. */
const layer = remembered((prandtl: number): Layer => {
  const f = slope(prandtl);
  // Little conduction leaves a thin warm layer that drags a thick one along; much of it a thick warm one.
  const far = 26 * Math.max(1, prandtl ** 0.2, prandtl ** -0.35);
  const decade = Math.log10(prandtl);
  let [shear, heat] = [pchip(BEGIN.decade, BEGIN.shear, decade), pchip(BEGIN.decade, BEGIN.heat, decade)];
  const miss = (a: number, b: number, reach: number) => {
    const [end] = integrate(f, 0, [0, 0, a, 1, -b], [reach]);
    return [end[1], end[3]] as const;
  };
  for (const part of REACHES) {
    const reach = part * far;
    for (let k = 0; ; k++) {
      const [r1, r2] = miss(shear, heat, reach);
      const [da, db] = [1e-7 * shear, 1e-7 * heat];
      const [a1, a2] = miss(shear + da, heat, reach);
      const [b1, b2] = miss(shear, heat + db, reach);
      const [j11, j12, j21, j22] = [(a1 - r1) / da, (b1 - r1) / db, (a2 - r2) / da, (b2 - r2) / db];
      const det = j11 * j22 - j12 * j21;
      const [sa, sb] = [(r1 * j22 - r2 * j12) / det, (j11 * r2 - j21 * r1) / det];
      shear -= sa;
      heat -= sb;
      if (!(Number.isFinite(shear) && Number.isFinite(heat)) || k > NEWTONS) throw new RangeError("The layer at this Prandtl number is not found.");
      if (Math.abs(sa) <= 1e-12 * shear && Math.abs(sb) <= 1e-12 * heat) break;
      // The last digits stir where the far end is hardly felt any more.
      if (k > 6 && Math.abs(sa) <= 1e-10 * shear && Math.abs(sb) <= 1e-10 * heat) break;
    }
  }
  const at = tabled(f, [0, 0, shear, 1, -heat], far);
  return { shear, heat, at, far };
}, 8);

/** intervals of the table a solved layer is read from: cubics between them leave a trillionth */
const INTERVALS = 8000;

/** A solution that is read between close places by cubics through its values and slopes, and stays as it is beyond its end. */
function tabled(f: Slope, start: readonly number[], far: number): Layer["at"] {
  // The warm layer may be much thinner than the one it drags along: the places lie closest at the wall.
  const place = (i: number) => far * (i / INTERVALS) ** 2;
  const places = Array.from({ length: INTERVALS }, (_, i) => place(i + 1));
  const states = [Float64Array.from(start), ...integrate(f, 0, start, places)];
  const slopes = states.map((y, i) => {
    const out = new Float64Array(y.length);
    f(place(i), y, out);
    return out;
  });
  const end = Float64Array.from([states[INTERVALS][0], 0, 0, 0, 0]);
  return (eta) =>
    eta.map((x) => {
      if (x >= far) return end;
      const i = Math.min(INTERVALS - 1, Math.floor(INTERVALS * Math.sqrt(x / far)));
      const h = place(i + 1) - place(i);
      const t = (x - place(i)) / h;
      const [a, b, da, db] = [states[i], states[i + 1], slopes[i], slopes[i + 1]];
      const r = 1 - t;
      return a.map((v, k) => (1 + 2 * t) * r * r * v + t * r * r * h * da[k] + t * t * (3 - 2 * t) * b[k] - t * t * r * h * db[k]);
    });
}

interface Given {
  readonly xM: number;
  readonly differenceK: number;
  readonly expansionPerK: number;
  readonly gravityMS2: number;
  readonly kinematicM2S: number;
  readonly prandtl: number;
}

const grashof = (p: Given) => (p.gravityMS2 * p.expansionPerK * p.differenceK * p.xM ** 3) / p.kinematicM2S ** 2;
/** height in the layer that eta counts as one, m */
const unitOf = (p: Given) => p.xM / (grashof(p) / 4) ** 0.25;
const speedOf = (p: Given) => ((2 * p.kinematicM2S) / p.xM) * Math.sqrt(grashof(p));

/** Laminar layer that rises along a warm upright plate: the similar solution, of which the formulas over the Rayleigh number are fits. */
export const warmPlateLayer = solution({
  id: "warm-plate-layer",
  name: "Laminar layer along a warm upright plate",
  subject: "Natural convection",
  words: "ostrach schmidt beckmann similarity free convection buoyancy boundary layer nusselt vertical wall table",
  nature: "similarity",
  uncertainty: 0,
  costly: true,
  formulas: [
    "f''' + 3 f f'' - 2 f'^2 + \\theta = 0, \\quad \\theta'' + 3\\,\\mathit{Pr}\\, f\\,\\theta' = 0, \\quad \\eta = \\frac{y}{x}\\left(\\frac{\\mathit{Gr}_x}{4}\\right)^{1/4}",
    "\\mathit{Nu}_x = -\\theta'(0)\\left(\\frac{\\mathit{Gr}_x}{4}\\right)^{1/4}, \\quad u = \\frac{2\\nu}{x}\\sqrt{\\mathit{Gr}_x}\\, f'(\\eta)",
  ],
  source: "Schmidt & Beckmann, Tech. Mech. Thermodyn. 1, 341 (1930); Ostrach, National Advisory Committee for Aeronautics, Report 1111 (1953)",
  physics: { space: "plane", heat: true },
  parameters: [
    { key: "xM", label: "Height above the lower edge", symbol: "x", unit: "m", preset: 0.3, low: 1e-3, high: 10, log: true, like: "length" },
    { key: "differenceK", label: "Wall warmer by", symbol: "\\Delta T", unit: "K", preset: 10, low: 0.01, high: 500, like: "temperatureDifference" },
    { key: "expansionPerK", label: "Thermal expansion", symbol: "\\beta", unit: "1/K", preset: 3.6e-3, low: 1e-5, high: 0.02, log: true },
    { key: "gravityMS2", label: "Gravity", symbol: "g", unit: "m/s^2", preset: 9.81, low: 0.1, high: 30, like: "gravity" },
    {
      key: "kinematicM2S",
      label: "Kinematic viscosity",
      symbol: "\\nu",
      unit: "m^2/s",
      preset: 1.36e-5,
      low: 1e-8,
      high: 1e-2,
      log: true,
      like: "kinematic",
    },
    { ...PRANDTL, low: 0.01, high: 1000 },
  ],
  range: (p) => [
    within("The Rayleigh number of the height", grashof(p) * p.prandtl, { low: 1e4, high: 1e9 }),
    within("The Prandtl number", p.prandtl, { low: 0.01, high: 1000 }),
  ],
  values: (p) => {
    const { shear, heat, at, far } = layer(p.prandtl);
    const scale = (grashof(p) / 4) ** 0.25;
    const speeds = at(Array.from({ length: 400 }, (_, i) => (far * (i + 1)) / 4000)).map((s) => s[1]);
    return [
      { key: "local", name: "Nusselt number here", unit: "", value: heat * scale },
      { key: "mean", name: "mean Nusselt number up to here", unit: "", value: (4 / 3) * heat * scale },
      { key: "gradient", name: "−θ' at the wall", unit: "", value: heat },
      { key: "curvature", name: "f'' at the wall", unit: "", value: shear },
      { key: "fastest", name: "largest velocity", unit: "m/s", value: speedOf(p) * Math.max(...speeds), uncertainty: 1e-5 },
    ];
  },
  curves: (p) => {
    const unit = unitOf(p);
    const { at, far } = layer(p.prandtl);
    const axis = { name: "distance from the plate", unit: "m" };
    const to = 0.25 * far * unit;
    const along = (of: (s: Float64Array) => number) => (ys: readonly number[]) => at(ys.map((y) => y / unit)).map(of);
    return [
      {
        key: "velocity",
        name: "velocity upwards",
        x: axis,
        y: { name: "velocity", unit: "m/s" },
        from: 0,
        to,
        sample: along((s) => speedOf(p) * s[1]),
      },
      {
        key: "warmth",
        name: "temperature above the air",
        x: axis,
        y: { name: "temperature difference", unit: "K" },
        from: 0,
        to,
        sample: along((s) => p.differenceK * s[3]),
      },
    ];
  },
});
