import { percent, significant } from "../../../formatting/number.ts";
import { inputUncertainty } from "../../../method/propagation/inputs.ts";
import type { Found, RuleInput, SourceAssessor } from "./source.ts";

/** How a sensitivity was found, in words. */
export const MEANS_WORDS = {
  typed: "typed",
  formula: "by formula",
  sweep: "from a sweep",
  differences: "by central differences",
  sample: "from a sample",
} as const;

/** Typed uncertainties of the conditions times what the quantity makes of them. */
function find({ evidence: e, quantity: q, means, scale, finest }: RuleInput): Found | undefined {
  const given = e.inputs ?? [];
  if (!given.length) return e.kind === "measured" ? { note: "no uncertainty of the inputs was given" } : undefined;
  const found = inputUncertainty(given, q.key, means, e.correlations);
  const silent = found.shares.filter((s) => s.relative === undefined).map((s) => s.label.toLowerCase());
  const earlier = e.sweptEarlier
    ? `; ${e.sweptEarlier === 1 ? "a set" : `${e.sweptEarlier} sets`} of runs made with an earlier set-up no longer ${e.sweptEarlier === 1 ? "counts" : "count"}`
    : "";
  if (silent.length) return { note: `how ${q.name} answers to ${silent.join(", ")} is not known${earlier}` };
  const size = Math.abs(finest?.result?.quantities[q.key] ?? scale.value) / scale.value;
  const parts = found.shares.map(
    (s) =>
      `${s.label.toLowerCase()} ${percent(s.relative ?? 0)} (sensitivity ${significant(s.sensitivity?.value ?? 0, 2)}, ${MEANS_WORDS[s.sensitivity?.by ?? "typed"]})`,
  );
  const uneven = found.shares.filter((s) => s.uneven).map((s) => s.label.toLowerCase());
  const doubt = uneven.length ? `; the answer to ${uneven.join(", ")} is uneven, and the first order alone is counted` : "";
  return {
    relative: (found.relative ?? 0) * size,
    note: `${parts.join(", ")}${e.correlations?.length ? "; correlated as stated" : ""}${doubt}${earlier}`,
  };
}

export const inputs: SourceAssessor = {
  key: "inputs",
  name: "inputs",
  group: "input",
  stage: "question",
  find,
  settle: () => ({
    sentence: "type how well the conditions are known, and let runs or your own figures tell how the quantity answers",
    go: "question",
  }),
  effort: 3,
};
