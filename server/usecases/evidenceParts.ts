import { readDerived } from "../../core/method/propagation/derived.ts";
import { FACTS } from "../../core/method/setup/facts.ts";
import { type CaseSetup, parameterSpecs } from "../../core/problems/describe/caseSetup.ts";
import { madeOf, questionOf } from "../../core/problems/describe/made.ts";
import type { DerivedEvidence } from "../../core/records/derived.ts";
import type { RuleValue } from "../../core/records/ownRule.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { RunEvidence } from "../../core/records/run.ts";
import { hashOf } from "../hash.ts";
import type { MeshRow, RunRow } from "../repositories/runs.ts";

/** Inputs of a case that a formula may name, with their values. */
export function formulaInputs(setup: CaseSetup): DerivedEvidence["inputs"] {
  return parameterSpecs(setup.problemId).flatMap((s) =>
    s.choices || setup.parameters[s.key] === undefined ? [] : [{ name: s.key, unit: s.unit || "1", value: setup.parameters[s.key] }],
  );
}

/** Formulas of a case with the inputs they may name; those of quantities taken off, and what rests on them, are left out. */
export function derivedEvidence(setup: CaseSetup, quantities: readonly QuantitySpec[]): { derived?: DerivedEvidence } {
  const inputs = formulaInputs(setup);
  let specs = (setup.derived ?? []).filter((d) => quantities.some((q) => q.key === d.key));
  for (let before = -1; before !== specs.length; ) {
    before = specs.length;
    const names = [
      ...inputs.map((i) => i.name),
      ...quantities.map((q) => q.key).filter((k) => !setup.derived?.some((d) => d.key === k) || specs.some((d) => d.key === k)),
    ];
    specs = specs.filter((d) => readable(d.formula, names));
  }
  return specs.length ? { derived: { specs, inputs } } : {};
}

function readable(formula: string, names: readonly string[]): boolean {
  try {
    readDerived(formula, names);
    return true;
  } catch {
    return false;
  }
}

/** Conditions and facts of a case that a rule may name, with their values; similarity numbers are added where they are worked out. */
export function ruleValues(setup: CaseSetup): RuleValue[] {
  const facts = FACTS.flatMap(({ key, unit }) => {
    const value = setup.facts?.[key];
    return value === undefined ? [] : [{ name: key, unit: unit || "1", value }];
  });
  return [...formulaInputs(setup), ...facts];
}

export function runEvidence(r: RunRow, meshes: readonly MeshRow[]): RunEvidence {
  const mesh = meshes.find((m) => m.id === r.meshId);
  return {
    id: r.id,
    label: r.label,
    origin: r.origin,
    code: r.code,
    state: r.state,
    setupHash: r.setupHash,
    questionHash: hashOf(questionOf(r.settings, r.setupHash)),
    made: { ...madeOf(r.settings), ...(r.build?.version ? { version: r.build.version } : {}) },
    ...(r.build ? { build: r.build } : {}),
    mesh: mesh && { label: mesh.label, cells: mesh.cells, spacing: mesh.spacing, dimension: mesh.dimension },
    ...(r.judging ? { judging: r.judging } : {}),
    ...(r.settings.stated ? { stated: r.settings.stated } : {}),
    result: r.result ?? undefined,
    failure: r.failure ?? undefined,
    finishedAt: r.finishedAt?.toISOString(),
    seconds: r.seconds ?? undefined,
  };
}
