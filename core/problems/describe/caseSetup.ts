import type { KeyedMonitor } from "../../monitors/monitor.ts";
import type { CredibilityStatement } from "../../records/credibility.ts";
import type { DerivedSpec } from "../../records/derived.ts";
import type { InputCorrelation, InputUncertainty } from "../../records/inputs.ts";
import type { Settlement } from "../../records/settlement.ts";
import type { Facts, Setup } from "../../records/setup.ts";
import type { StudyChoices } from "../../records/studyChoice.ts";
import type { Take } from "../../records/take.ts";
import type { Answer } from "../../remarks/remark.ts";
import { described } from "./catalogue.ts";
import type { FamilySpec, ParameterSpec } from "./problem.ts";
import type { Numerics } from "./runSettings.ts";

/** What a person typed for a case, in SI. */
export interface CaseSetup {
  /** bench problem, or null for a case whose results are brought in */
  readonly problemId: string | null;
  readonly parameters: Readonly<Record<string, number>>;
  readonly fluid: { readonly name: string; readonly temperatureK?: number; readonly pressurePa?: number };
  /** what the other code solved, stated once and used by every rule; a bench problem knows its own */
  readonly physics?: Physics;
  /** what is known of the other code's numerics; nothing is taken for granted */
  readonly stated?: StatedNumerics;
  /** entries as they were typed, with their units, by the field they stand in */
  readonly typed?: Readonly<Record<string, string>>;
  /** how well the conditions are known: 95 %, SI, by the key of the condition, and what quantities make of it */
  readonly inputs?: Readonly<Record<string, { readonly uncertainty: number; readonly sensitivities: Readonly<Record<string, number>> }>>;
  /** which of the conditions are uncertain together */
  readonly correlations?: readonly InputCorrelation[];
  /** the family of meshes as it was last run */
  readonly family?: FamilySpec;
  /** the case this one was copied from */
  readonly copiedFrom?: string;
  /** statistic of its record that stands for a quantity's value, where one was chosen, by quantity */
  readonly takes?: Readonly<Record<string, Take>>;
  /** what persons said of error sources that no run shows, oldest first */
  readonly settlements?: readonly Settlement[];
  /** what persons said of how credible it is, oldest first */
  readonly credibility?: readonly CredibilityStatement[];
  /** what persons decided about the ladders */
  readonly studies?: StudyChoices;
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

export interface Physics {
  readonly time: string;
  readonly model: string;
  readonly space: string;
  readonly compressible?: boolean;
  /** the whole, or which part of it was modelled */
  readonly part?: string;
  /** share of the whole that was modelled: 0.5 for a half model, 1/n for one of n periodic pieces */
  readonly share?: number;
}

export interface StatedNumerics {
  readonly schemeOrder?: 1 | 2;
  /** orders of magnitude the code let its residuals fall before it stopped */
  readonly dropOrders?: number;
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

/** Conditions a case is asked for: those of its template, or of results from another code (null). */
export function parameterSpecs(problemId: string | null): readonly ParameterSpec[] {
  return problemId === null ? BROUGHT_IN_PARAMETERS : described(problemId).parameters;
}

export const DEFAULT_NUMERICS: Numerics = { scheme: "central", dropOrders: 8, maxIterations: 400 };

/** Choices for what another code solved. */
export const PHYSICS_CHOICES = {
  time: ["steady", "transient"],
  model: ["laminar", "turbulence model", "turbulence resolved"],
  space: ["plane", "axisymmetric", "three-dimensional"],
  part: ["whole", "half model", "periodic piece"],
} as const;

const FOREIGN_PHYSICS: Physics = {
  time: "steady",
  model: "turbulence model",
  space: "three-dimensional",
  compressible: false,
  part: "whole",
  share: 1,
};

/** Physics of a case, complete; entries of an earlier form, in which the part stood for the space, are understood. */
export function physicsOf(c: Pick<CaseSetup, "problemId" | "physics" | "facts">): Required<Physics> {
  if (c.problemId !== null) {
    const w = described(c.problemId).physicsWords;
    return { time: w.time, model: w.model, space: w.space, compressible: w.compressible, part: "whole", share: 1 };
  }
  const p = { ...FOREIGN_PHYSICS, ...c.physics };
  const partial = (PHYSICS_CHOICES.part as readonly string[]).includes(p.space);
  const part = partial ? p.space : (p.part ?? "whole");
  const share = c.physics?.share ?? c.facts?.modelShare ?? (part === "half model" ? 0.5 : 1);
  return { ...(p as Required<Physics>), space: partial ? "three-dimensional" : p.space, part, share };
}

/** Dimension of the mesh that goes with a space. */
export const dimensionOf = (space: string): 2 | 3 => (space === "three-dimensional" ? 3 : 2);

/** Numerics a template proposes. */
export const numericsOf = (problemId: string): Numerics => ({ ...DEFAULT_NUMERICS, ...described(problemId).numerics });

/** The set-up the rules of method 8 read. */
export function setupOf(c: CaseSetup): Setup {
  const p = c.parameters;
  const problem = c.problemId === null ? undefined : described(c.problemId);
  const reference = problem?.reference(p) ?? { velocityMS: p.velocityMS, lengthM: p.lengthM, velocityName: "velocity", lengthName: "length" };
  const gas = problem?.physicsWords.compressible ? gasOf(p) : undefined;
  const density = gas?.density ?? p.densityKgM3 ?? 1;
  const physics = physicsOf(c);
  return {
    fluidName: c.fluid.name,
    temperatureK: c.fluid.temperatureK,
    pressurePa: c.fluid.pressurePa,
    densityKgM3: density,
    dynamicViscosityPaS: p.viscosityPaS ?? (p.viscosityM2S === undefined ? undefined : p.viscosityM2S * density),
    kinematicViscosityM2S: c.kinematicViscosityM2S,
    ...reference,
    reynoldsTyped: c.reynoldsTyped,
    inTime: physics.time === "transient",
    compressible: gas !== undefined || physics.compressible,
    inviscid: problem?.physicsWords.model === "inviscid" || (gas !== undefined && !(p.viscosityPaS > 0)),
    soundSpeedMS: gas?.sound,
    ...(c.problemId === null
      ? { schemeOrder: c.stated?.schemeOrder, dropOrders: c.stated?.dropOrders, foreign: true }
      : {
          schemeOrder: c.numerics.scheme === "upwind" || c.numerics.limiter === "first-order" ? (1 as const) : (2 as const),
          dropOrders: c.numerics.dropOrders,
        }),
    facts: {
      ...c.facts,
      model: physics.model === "laminar" || physics.model === "inviscid" ? 0 : 1,
      modelShare: physics.share,
      ...(c.problemId === null ? { axisymmetricSet: physics.space === "axisymmetric" ? 1 : 0 } : {}),
    },
    ...(p.prandtl > 0
      ? {
          heat: {
            prandtl: p.prandtl,
            expansionPerK: p.expansionPerK,
            gravityMS2: p.gravityMS2,
            differenceK: p.warmK === undefined || p.coldK === undefined ? undefined : p.warmK - p.coldK,
          },
        }
      : {}),
    entry: problem?.entry?.(p),
  };
}

/** Density and speed of sound of a gas as its template gives them: by pressure and temperature, ahead of a shock, or in a reservoir. */
function gasOf(p: Readonly<Record<string, number>>): { density?: number; sound?: number } {
  const temperature = p.temperatureK ?? p.totalTemperatureK;
  const pressure = p.pressurePa ?? p.totalPressurePa ?? p.leftPressurePa;
  const density = p.leftDensity ?? (temperature === undefined ? undefined : pressure / (p.gasConstant * temperature));
  return { density, sound: density === undefined ? undefined : Math.sqrt((p.gamma * pressure) / density) };
}

/**
 * What runs of a case depend on besides the mesh: its hash tells whether a run is older than its inputs. A bench run rests on its parameters
 * and numerics; one of another code on the conditions, the fluid's state and the physics it was said to be made with, not on how it is judged.
 */
export function setupFingerprint(c: CaseSetup): object {
  if (c.problemId === null) return { parameters: c.parameters, fluid: c.fluid, physics: physicsOf(c), stated: c.stated ?? {} };
  const { stop: _stop, ...numerics } = c.numerics;
  return { problemId: c.problemId, parameters: c.parameters, ...(c.formulas ? { formulas: c.formulas } : {}), numerics };
}

/** Conditions of a case whose uncertainty was typed. */
export function inputsOf(c: CaseSetup): InputUncertainty[] {
  return parameterSpecs(c.problemId).flatMap((s) => {
    const entry = c.inputs?.[s.key];
    const value = c.parameters[s.key];
    if (!entry || value === undefined) return [];
    return [{ key: s.key, label: s.label, value, unit: s.unit || "1", ...entry }];
  });
}
