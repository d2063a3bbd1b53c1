import { typedNumber } from "@/core/formatting/number";
import { parameterSpecs } from "@/core/problems/describe/caseSetup";
import { described, presetFormulas } from "@/core/problems/describe/catalogue";
import { proposedKind, type QuantityKind } from "@/core/units/quantityKind";
import type { Input } from "../api/call";
import { entryOf } from "../forms/entries";

type Sent = Input<"POST /cases">;

/** the choice that is no template: results from another code */
export const FROM_FILES = "";

/** What the template decides: its figures in words, and a fluid it may go with. */
interface TemplateEntries {
  readonly fluidName: string;
  readonly temperature: string;
  readonly pressure: string;
  readonly parameters: Readonly<Record<string, string>>;
  readonly formulas: Readonly<Record<string, string>>;
  readonly similarity: Readonly<Record<string, string>>;
}

export interface NewCaseEntries extends TemplateEntries {
  readonly title: string;
  readonly purpose: string;
  readonly quantityName: string;
  readonly quantityUnit: string;
  readonly quantityKind?: QuantityKind;
  readonly physics: NonNullable<Sent["physics"]>;
}

const REAL_FLUID = { fluidName: "air", temperature: "4 °C", pressure: "101325 Pa" };
const MADE_UP_FLUID = { fluidName: "made-up fluid", temperature: "", pressure: "" };

const problemOf = (template: string) => (template === FROM_FILES ? undefined : described(template));

/** A template's presets as they are typed. */
export function templateEntries(template: string): TemplateEntries {
  const problem = problemOf(template);
  const specs = parameterSpecs(problem ? template : null);
  return {
    ...(problem?.madeUpFluid ? MADE_UP_FLUID : REAL_FLUID),
    parameters: Object.fromEntries(specs.map((s) => [s.key, s.choices ? String(s.preset) : `${typedNumber(s.preset)} ${s.unit}`.trim()])),
    formulas: problem ? presetFormulas(problem) : {},
    similarity: Object.fromEntries((problem?.similarity ?? []).map((s) => [s.key, String(s.preset)])),
  };
}

export const startEntries = (template: string): NewCaseEntries => ({
  title: "",
  purpose: "",
  quantityName: "",
  quantityUnit: "",
  quantityKind: undefined,
  physics: { time: "steady", model: "turbulence model", space: "three-dimensional" },
  ...templateEntries(template),
});

/**
 * The parameter a similarity number sets, as it is typed, with all other parameters as they stand.
 * @returns undefined where no value gives that number
 */
export function parameterBy(template: string, key: string, typed: Pick<NewCaseEntries, "parameters" | "similarity">) {
  const number = problemOf(template)?.similarity?.find((q) => q.key === key);
  if (!number) return undefined;
  const values = Object.fromEntries(Object.entries(typed.parameters).map(([k, text]) => [k, Number.parseFloat(text)]));
  const found = number.solve(Number(typed.similarity[key]), values);
  if (!Number.isFinite(found)) return undefined;
  const unit = parameterSpecs(template).find((q) => q.key === number.sets)?.unit ?? "";
  return { key: number.sets, text: `${Number(found.toPrecision(7))} ${unit}`.trim() };
}

/** What is sent: only what the template, or its absence, asks for. */
export function inputOf(template: string, typed: NewCaseEntries): Sent {
  const { physics, formulas, similarity, quantityKind, ...plain } = typed;
  const problem = problemOf(template);
  return {
    ...plain,
    problemId: problem ? (template as Sent["problemId"]) : null,
    ...(problem ? {} : { physics, quantityKind: quantityKind ?? proposedKind(typed.quantityName) }),
    ...(problem?.formulas ? { formulas } : {}),
  };
}

export const NewCaseEntry = entryOf<NewCaseEntries>();
