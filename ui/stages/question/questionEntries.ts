import { FACTS, type FactSpec } from "@/core/method/setup/facts";
import { type CaseSetup, parameterSpecs, physicsOf } from "@/core/problems/describe/caseSetup";
import type { ParameterSpec } from "@/core/problems/describe/problem";
import type { CaseEvidence } from "@/core/records/case";
import { entryText } from "@/core/units/entry";
import type { Input } from "../../api/call";
import { limitText } from "./limitText";

interface QuestionSource {
  readonly title: string;
  readonly purpose: string;
  readonly setup: CaseSetup;
  readonly evidence: Pick<CaseEvidence, "quantities">;
}

type Sent = Input<"PUT /cases/{id}">;

/** The question as it is typed: what the server takes, but for lists that are always there. */
export type QuestionEntries = ReturnType<typeof questionEntries>;

/** A fact as typed: its number with its unit, or nothing while it is not known. */
function factText(spec: FactSpec, value: number | undefined, typed?: string): string {
  if (value === undefined) return "";
  return spec.choices ? String(value) : entryText(typed, value, spec.unit);
}

const typedInput = (setup: CaseSetup, s: ParameterSpec) => {
  const entry = setup.inputs?.[s.key];
  const sensitivities: Record<string, string> = Object.fromEntries(Object.entries(entry?.sensitivities ?? {}).map(([k, v]) => [k, String(v)]));
  return { uncertainty: entry ? `${Number(entry.uncertainty.toPrecision(6))} ${s.unit}`.trim() : "", sensitivities };
};

const typedParameter = (setup: CaseSetup, s: ParameterSpec) =>
  s.choices ? String(setup.parameters[s.key]) : entryText(setup.typed?.[s.key], setup.parameters[s.key], s.unit);

/** The stored words are those of the choices: only they pass the server. */
function typedPhysics(setup: CaseSetup) {
  const p = physicsOf(setup);
  return { ...p, share: p.part === "whole" ? "" : String(p.share) } as Required<NonNullable<Sent["physics"]>>;
}

const typedStatements = ({ stated }: CaseSetup) =>
  ({ schemeOrder: String(stated?.schemeOrder ?? ""), dropOrders: String(stated?.dropOrders ?? "") }) as NonNullable<Sent["stated"]>;

/** Everything of a case's question as text, in the units it was typed in. Made where the page is: it reads units, whose package is large. */
export function questionEntries({ title, purpose, setup, evidence }: QuestionSource) {
  const specs = parameterSpecs(setup.problemId);
  const { fluid, typed, numerics } = setup;
  const foreign = setup.problemId === null;
  return {
    title,
    purpose,
    parameters: Object.fromEntries(specs.map((s) => [s.key, typedParameter(setup, s)])),
    fluidName: fluid.name,
    temperature: entryText(typed?.temperature, fluid.temperatureK, "K"),
    pressure: entryText(typed?.pressure, fluid.pressurePa, "Pa"),
    physics: foreign ? typedPhysics(setup) : undefined,
    stated: foreign ? typedStatements(setup) : undefined,
    inputs: Object.fromEntries(specs.filter((s) => !s.choices).map((s) => [s.key, typedInput(setup, s)])),
    correlations: (setup.correlations ?? []).map(({ between: [a, b], coefficient }) => ({ a, b, coefficient: String(coefficient) })),
    reynolds: entryText(typed?.reynolds, setup.reynoldsTyped, ""),
    kinematicViscosity: entryText(typed?.kinematicViscosity, setup.kinematicViscosityM2S, "m^2/s"),
    formulas: { ...setup.formulas },
    facts: Object.fromEntries(FACTS.map((f) => [f.key, factText(f, setup.facts?.[f.key], typed?.[`fact-${f.key}`])])),
    scheme: foreign ? undefined : numerics.scheme,
    riemannFlux: numerics.riemannFlux,
    limiter: numerics.limiter,
    courant: numerics.courant === undefined ? undefined : String(numerics.courant),
    maxIterations: String(numerics.maxIterations),
    dropOrders: String(numerics.dropOrders),
    limits: Object.fromEntries(evidence.quantities.map((q) => [q.key, limitText(q.limit)])),
  };
}
