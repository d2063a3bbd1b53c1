import { DerivedSet } from "../../method/propagation/derived.ts";
import type { DerivedEvidence } from "../../records/derived.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { HistoryEvidence, RunEvidence } from "../../records/run.ts";
import type { DerivedAssessment } from "../results/derived.ts";

/** @throws {DerivedError} a formula, a unit or a circle does not hold */
export function derivedSet(d: DerivedEvidence, quantities: readonly QuantitySpec[]): DerivedSet {
  const own = new Set(d.specs.map((s) => s.key));
  const given = [...d.inputs, ...quantities.filter((q) => !own.has(q.key)).map((q) => ({ name: q.key, unit: q.unit }))];
  return new DerivedSet(
    d.specs.map((s) => ({ ...s, symbol: s.key })),
    given,
  );
}

/** A run with its derived quantities worked out, as values and as records. */
export function withDerived(run: RunEvidence, d: DerivedEvidence, set: DerivedSet): RunEvidence {
  const constants = Object.fromEntries(d.inputs.map((i) => [i.name, i.value]));
  const { result, history } = run;
  const values = result && set.values({ ...constants, ...result.quantities });
  const finite = Object.entries(values ?? {}).filter(([, v]) => Number.isFinite(v.value));
  return {
    ...run,
    result: result && { ...result, quantities: { ...result.quantities, ...Object.fromEntries(finite.map(([k, v]) => [k, v.value])) } },
    history: history && withRecords(history, set, { ...constants, ...result?.quantities }),
  };
}

/** Only what rests on at least one record becomes a record: a formula of constants alone does not. */
function withRecords(h: HistoryEvidence, set: DerivedSet, constants: Readonly<Record<string, number>>): HistoryEvidence {
  const moving = set.restingOn(Object.keys(h.quantities));
  const records = set.records(h.quantities, constants, h.iteration.length);
  return { ...h, quantities: { ...h.quantities, ...Object.fromEntries(Object.entries(records).filter(([key]) => moving.has(key))) } };
}

/** Values and first-order uncertainties of the finest run, from the standard uncertainties of its parts. */
export function assessDerived(
  d: DerivedEvidence,
  set: DerivedSet,
  finest: RunEvidence | undefined,
  standard: Readonly<Record<string, number | undefined>>,
): DerivedAssessment[] {
  const constants = Object.fromEntries(d.inputs.map((i) => [i.name, i.value]));
  // Inputs count as exact while no uncertainty of theirs is known.
  const exact = Object.fromEntries(d.inputs.map((i) => [i.name, 0]));
  const values = finest?.result ? set.values({ ...constants, ...finest.result.quantities }, { ...exact, ...standard }) : {};
  return d.specs.map((s) => ({
    key: s.key,
    formula: s.formula,
    uses: set.uses(s.key),
    value: values[s.key]?.value,
    standard: values[s.key]?.standard,
  }));
}
