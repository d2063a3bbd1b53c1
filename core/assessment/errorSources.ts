import { percent, significant } from "../formatting/number.ts";
import type { BalanceAssessment } from "../method/balance/balance.ts";
import { dominantSource, type ErrorSource, numericalUncertainty, type QuantityRule, standardOf } from "../method/budget/rule.ts";
import { settled } from "../method/budget/settlement.ts";
import { lastDigit } from "../method/iteration/printedStep.ts";
import { inputUncertainty, type SensitivityMeans } from "../method/propagation/inputs.ts";
import type { CaseEvidence } from "../records/case.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { RunEvidence } from "../records/run.ts";
import { TAKE_WORDS } from "../records/take.ts";
import type { QuantityRefinement } from "./refinement.ts";
import { type Scale, valuesFor } from "./scale.ts";
import type { RunSettling } from "./settling.ts";

/** What the sources of one quantity are read from. */
export interface RuleInput {
  readonly evidence: CaseEvidence;
  readonly quantity: QuantitySpec;
  readonly scale: Scale;
  readonly finest?: RunEvidence;
  readonly settling?: RunSettling;
  readonly balance?: BalanceAssessment;
  readonly refinement: QuantityRefinement;
  readonly means: SensitivityMeans;
}

const finite = (x: number | undefined) => (x !== undefined && Number.isFinite(x) ? x : undefined);

/** All error sources of a quantity on one scale, settled by hand where nothing measured them. */
export function buildRule(i: RuleInput): QuantityRule {
  const { evidence: e, quantity: q } = i;
  const found = [roundOff(i), iteration(i), ...averaging(i), mesh(i), ...timeStep(i), balanceDefect(i), ...domain(i), ...inputs(i), reference(i)];
  const sources = found.map((s) => settled(s, e.settlements ?? [], q.key, e.setupHash));
  const uInputs = sources.find((s) => s.key === "inputs");
  return {
    quantityKey: q.key,
    scale: i.scale.value,
    ...(i.scale.name ? { scaleName: i.scale.name } : {}),
    value: i.finest?.result?.quantities[q.key],
    sources,
    uNum: numericalUncertainty(sources),
    ...(uInputs ? { uInput: uInputs.relative === undefined ? undefined : standardOf([uInputs]) } : { uInput: 0 }),
    dominant: dominantSource(sources)?.name,
    missing: sources.filter((s) => s.relative === undefined).map((s) => s.name),
  };
}

const SINGLE = 6e-8;

/** Precision times the root of the cells; for a code whose precision nobody stated, half the last digit it printed. */
function roundOff({ evidence: e, quantity: q, finest, scale }: RuleInput): ErrorSource {
  const base = { key: "round-off", name: "round-off", group: "machine", stage: "verdict", at: finest?.finishedAt } as const;
  if (!finest) return { ...base, note: "no run" };
  const root = Math.sqrt(finest.mesh?.cells ?? 1);
  if (finest.origin === "bench") return { ...base, relative: Number.EPSILON * root, note: "double precision times the root of the number of cells" };
  const precision = e.precision?.[finest.code];
  if (precision)
    return {
      ...base,
      relative: (precision === "single" ? SINGLE : Number.EPSILON / 2) * root,
      note: `${finest.code} works in ${precision} precision, as stated; times the root of the number of cells`,
    };
  const record = finest.history?.quantities[q.key];
  const value = finest.result?.quantities[q.key];
  if (record) {
    const digit = lastDigit(record.filter(Number.isFinite).slice(-200));
    if (digit === 0)
      return {
        ...base,
        relative: Number.EPSILON * root,
        note: `${finest.code} writes all digits of double precision; times the root of the number of cells`,
      };
    return { ...base, relative: digit / 2 / scale.value, note: `half the last digit that ${finest.code} printed; its precision was not stated` };
  }
  if (value === undefined) return { ...base, note: `the precision of ${finest.code} is not stated` };
  return {
    ...base,
    relative: lastDigit([value]) / 2 / scale.value,
    note: "half the last digit of the value in the file; the precision was not stated",
  };
}

function iteration({ quantity: q, settling, finest }: RuleInput): ErrorSource {
  const at = finest?.finishedAt;
  const base = { key: "iteration", name: "iteration", group: "numerical", stage: "settling", at } as const;
  const average = settling?.averages.find((a) => a.key === q.key && a.adopted);
  if (average) return { ...base, relative: 0, note: `the ${TAKE_WORDS[average.take]} stands for the value; see averaging` };
  const own = settling?.quantities.find((s) => s.key === q.key);
  if (own) return { ...base, relative: finite(own.relative), note: `end of the record of the finest run: ${own.kind}` };
  if (finest?.history?.time && finest.origin === "bench") {
    const drop = settling?.smallestDrop;
    const solved = drop === undefined ? "explicit steps leave nothing to iterate" : `each step solved to ${significant(10 ** -drop, 1)} of its start`;
    return { ...base, relative: drop === undefined ? 0 : 10 ** -drop, note: solved };
  }
  return { ...base, note: "no record of this quantity over the iterations" };
}

/** The uncertainty of the mean, where the mean stands for the run's value. */
function averaging({ quantity: q, settling, finest, scale }: RuleInput): ErrorSource[] {
  const average = settling?.averages.find((a) => a.key === q.key && a.adopted);
  if (!average) return [];
  const note = `${TAKE_WORDS[average.take]} of ${average.samples} samples, ${significant(average.effectiveSamples, 3)} of them independent`;
  return [
    {
      key: "averaging",
      name: "averaging",
      group: "numerical",
      relative: average.taken && finite(average.taken.expanded / scale.value),
      stage: "settling",
      note,
      at: finest?.finishedAt,
    },
  ];
}

function mesh({ refinement, finest }: RuleInput): ErrorSource {
  return {
    key: "mesh",
    name: "mesh",
    group: "numerical",
    relative: finite(refinement.relative),
    stage: "refinement",
    note: refinement.headline,
    at: finest?.finishedAt,
  };
}

/** Bench runs in time refine step and spacing together, so that the mesh figure holds both. */
function timeStep({ finest }: RuleInput): ErrorSource[] {
  if (!finest?.history?.time || finest.origin === "bench") return [];
  return [{ key: "time-step", name: "time step", group: "numerical", stage: "refinement", note: "no runs with another time step" }];
}

function balanceDefect({ balance, finest }: RuleInput): ErrorSource {
  // Where nothing flows through, as in a closed box in time, what else is conserved stands for it.
  const line = balance?.lines.find((l) => l.what === "mass") ?? balance?.lines[0];
  return {
    key: "balance",
    name: "balance",
    group: "numerical",
    relative: line?.relative,
    stage: "balance",
    note: line ? `net ${line.what} over ${line.over ?? "throughput"} of the finest run` : "no boundary fluxes",
    at: finest?.finishedAt,
  };
}

function domain({ evidence: e }: RuleInput): ErrorSource[] {
  return e.kind === "measured"
    ? [{ key: "domain", name: "domain", group: "numerical", stage: "refinement", note: "no runs with another domain size" }]
    : [];
}

const MEANS_WORDS = { typed: "typed", formula: "by formula", sweep: "from a sweep" } as const;

/** Typed uncertainties of the conditions times what the quantity makes of them. */
function inputs({ evidence: e, quantity: q, means, scale, finest }: RuleInput): ErrorSource[] {
  const given = e.inputs ?? [];
  if (!given.length && e.kind !== "measured") return [];
  const base = { key: "inputs", name: "inputs", group: "input", stage: "question" } as const;
  if (!given.length) return [{ ...base, note: "no uncertainty of the inputs was given" }];
  const found = inputUncertainty(given, q.key, means);
  const size = Math.abs(finest?.result?.quantities[q.key] ?? scale.value) / scale.value;
  const silent = found.shares.filter((s) => s.relative === undefined).map((s) => s.label.toLowerCase());
  if (silent.length) return [{ ...base, note: `how ${q.name} answers to ${silent.join(", ")} is not known` }];
  const parts = found.shares.map(
    (s) =>
      `${s.label.toLowerCase()} ${percent(s.relative ?? 0)} (sensitivity ${significant(s.sensitivity?.value ?? 0, 2)}, ${MEANS_WORDS[s.sensitivity?.by ?? "typed"]})`,
  );
  return [{ ...base, relative: (found.relative ?? 0) * size, note: parts.join(", ") }];
}

function reference({ evidence: e, quantity: q, scale }: RuleInput): ErrorSource {
  const first = leading(valuesFor(e.yardsticks, q.key));
  const u = first?.value.standardUncertainty;
  return {
    key: "reference",
    name: "reference",
    group: "input",
    relative: u === undefined ? undefined : (2 * u) / scale.value,
    stage: "yardsticks",
    note: first ? `${first.yardstick.name}: ${first.value.uncertaintyNote}` : "no yardstick for this quantity",
  };
}

/** Of several yardsticks that hold here, the truest kind with the smallest stated uncertainty; else the first there is. */
export function leading(found: ReturnType<typeof valuesFor>): ReturnType<typeof valuesFor>[number] | undefined {
  const rank = (y: (typeof found)[number]) => (y.yardstick.validity.inside ? 0 : 2) + (y.yardstick.kind === "other-code" ? 1 : 0);
  const doubt = (y: (typeof found)[number]) => y.value.standardUncertainty ?? Number.POSITIVE_INFINITY;
  return [...found].sort((a, b) => rank(a) - rank(b) || (doubt(a) === doubt(b) ? 0 : doubt(a) - doubt(b)))[0];
}
