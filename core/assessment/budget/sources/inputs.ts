import { percent, significant } from "../../../formatting/number.ts";
import { inputUncertainty } from "../../../method/propagation/inputs.ts";
import type { Found, RuleInput, SourceAssessor } from "./source.ts";

const MEANS_WORDS = { typed: "typed", formula: "by formula", sweep: "from a sweep" } as const;

/** Typed uncertainties of the conditions times what the quantity makes of them. */
function find({ evidence: e, quantity: q, means, scale, finest }: RuleInput): Found | undefined {
  const given = e.inputs ?? [];
  if (!given.length) return e.kind === "measured" ? { note: "no uncertainty of the inputs was given" } : undefined;
  const found = inputUncertainty(given, q.key, means);
  const silent = found.shares.filter((s) => s.relative === undefined).map((s) => s.label.toLowerCase());
  if (silent.length) return { note: `how ${q.name} answers to ${silent.join(", ")} is not known` };
  const size = Math.abs(finest?.result?.quantities[q.key] ?? scale.value) / scale.value;
  const parts = found.shares.map(
    (s) =>
      `${s.label.toLowerCase()} ${percent(s.relative ?? 0)} (sensitivity ${significant(s.sensitivity?.value ?? 0, 2)}, ${MEANS_WORDS[s.sensitivity?.by ?? "typed"]})`,
  );
  return { relative: (found.relative ?? 0) * size, note: parts.join(", ") };
}

export const inputs: SourceAssessor = {
  key: "inputs",
  name: "inputs",
  group: "input",
  stage: "question",
  find,
  settle: () => ({ sentence: "type how well the conditions are known, and how the quantity answers to them", go: "question" }),
  effort: 3,
};
