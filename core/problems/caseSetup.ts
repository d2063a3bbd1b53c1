import type { Answer } from "../assessment/outcome.ts";
import type { DerivedSpec } from "../derived/derived.ts";
import type { KeyedMonitor } from "../monitors/monitor.ts";
import type { Facts } from "../setup/facts.ts";
import type { Setup } from "../setup/setup.ts";
import { benchProblem } from "./catalogue.ts";
import type { ParameterSpec } from "./problem.ts";
import type { Numerics } from "./runSettings.ts";

/** What a person typed for a case, in SI. */
export interface CaseSetup {
  /** bench problem, or null for a case whose results are brought in */
  readonly problemId: string | null;
  readonly parameters: Readonly<Record<string, number>>;
  readonly fluid: { readonly name: string; readonly temperatureK?: number; readonly pressurePa?: number };
  /** what the other code solved; bench problems are steady, laminar and plane */
  readonly physics?: { readonly time: string; readonly model: string; readonly space: string };
  readonly reynoldsTyped?: number;
  readonly kinematicViscosityM2S?: number;
  /** what else is known of the set-up: see `FACTS` */
  readonly facts?: Facts;
  /** formulas of a manufactured case */
  readonly formulas?: Readonly<Record<string, string>>;
  readonly numerics: Numerics;
  /** quantities worked out from others by formula */
  readonly derived?: readonly DerivedSpec[];
  /** answers to remarks on the set-up, oldest first */
  readonly answers?: readonly Answer[];
  /** quantities a person added to those of the template */
  readonly monitors?: readonly KeyedMonitor[];
}

/** What is asked of a case that is computed elsewhere. */
export const BROUGHT_IN_PARAMETERS: readonly ParameterSpec[] = [
  {
    key: "velocityMS",
    label: "Reference velocity",
    unit: "m/s",
    preset: 1,
    min: 0,
    max: 1e5,
    help: "The velocity the Reynolds number is made with.",
  },
  { key: "lengthM", label: "Reference length", unit: "m", preset: 1, min: 1e-9, max: 1e6, help: "The length the Reynolds number is made with." },
  { key: "densityKgM3", label: "Density", unit: "kg/m^3", preset: 1.274, min: 1e-6, max: 3e4, help: "As typed in the other code." },
  { key: "viscosityPaS", label: "Dynamic viscosity", unit: "Pa s", preset: 1.73e-5, min: 1e-9, max: 1e5, help: "As typed in the other code." },
];

export function parameterSpecs(problemId: string | null): readonly ParameterSpec[] {
  return problemId === null ? BROUGHT_IN_PARAMETERS : benchProblem(problemId).parameters;
}

export const DEFAULT_NUMERICS: Numerics = { scheme: "central", dropOrders: 8, maxIterations: 400 };

/** Choices for what another code solved. */
export const PHYSICS_CHOICES = {
  time: ["steady", "transient"],
  model: ["laminar", "turbulence model", "turbulence resolved"],
  space: ["plane", "axisymmetric", "three-dimensional", "half model", "periodic piece"],
} as const;

/** Numerics a template proposes. */
export const numericsOf = (problemId: string): Numerics => ({ ...DEFAULT_NUMERICS, ...benchProblem(problemId).numerics });

/** The set-up the rules of method 8 read. */
export function setupOf(c: CaseSetup): Setup {
  const p = c.parameters;
  const problem = c.problemId === null ? undefined : benchProblem(c.problemId);
  const reference = problem?.reference(p) ?? { velocityMS: p.velocityMS, lengthM: p.lengthM, velocityName: "velocity", lengthName: "length" };
  const gas = problem?.physicsWords.compressible ? gasOf(p) : undefined;
  const density = gas?.density ?? p.densityKgM3 ?? 1;
  return {
    fluidName: c.fluid.name,
    temperatureK: c.fluid.temperatureK,
    pressurePa: c.fluid.pressurePa,
    densityKgM3: density,
    dynamicViscosityPaS: p.viscosityPaS ?? (p.viscosityM2S === undefined ? undefined : p.viscosityM2S * density),
    kinematicViscosityM2S: c.kinematicViscosityM2S,
    ...reference,
    reynoldsTyped: c.reynoldsTyped,
    compressible: gas !== undefined,
    inviscid: problem?.physicsWords.model === "inviscid" || (gas !== undefined && !(p.viscosityPaS > 0)),
    soundSpeedMS: gas?.sound,
    schemeOrder: c.numerics.scheme === "upwind" || c.numerics.limiter === "first-order" ? 1 : 2,
    dropOrders: c.numerics.dropOrders,
    ...(c.facts ? { facts: c.facts } : {}),
    entry: c.problemId === "plates" && p.ends === 2 ? { lengthM: p.lengthM, gapM: p.gapM } : undefined,
  };
}

/** Density and speed of sound of a gas as its template gives them: by pressure and temperature, ahead of a shock, or in a reservoir. */
function gasOf(p: Readonly<Record<string, number>>): { density?: number; sound?: number } {
  const temperature = p.temperatureK ?? p.totalTemperatureK;
  const pressure = p.pressurePa ?? p.totalPressurePa ?? p.leftPressurePa;
  const density = p.leftDensity ?? (temperature === undefined ? undefined : pressure / (p.gasConstant * temperature));
  return { density, sound: density === undefined ? undefined : Math.sqrt((p.gamma * pressure) / density) };
}

/** What runs of a case depend on besides the mesh: its hash tells whether a run is older than its inputs. */
export function setupFingerprint(c: CaseSetup): object {
  const { stop: _stop, ...numerics } = c.numerics;
  return { problemId: c.problemId, parameters: c.parameters, ...(c.formulas ? { formulas: c.formulas } : {}), numerics };
}
