import { significant } from "../../../formatting/number.ts";
import { TAKE_WORDS } from "../../../records/take.ts";
import { type Found, finite, type RuleInput, type SourceAssessor } from "./source.ts";

function find({ quantity: q, settling, finest }: RuleInput): Found {
  const at = finest?.finishedAt;
  const average = settling?.averages.find((a) => a.key === q.key && a.adopted);
  if (average) return { at, relative: 0, note: `the ${TAKE_WORDS[average.take]} stands for the value; see averaging` };
  const own = settling?.quantities.find((s) => s.key === q.key);
  if (own) return { at, relative: finite(own.relative), note: `end of the record of the finest run: ${own.kind}` };
  if (!finest?.history?.time || finest.origin !== "bench") return { at, note: "no record of this quantity over the iterations" };
  const drop = settling?.smallestDrop;
  if (drop === undefined) return { at, relative: 0, note: "explicit steps leave nothing to iterate" };
  return { at, relative: 10 ** -drop, note: `each step solved to ${significant(10 ** -drop, 1)} of its start` };
}

export const iteration: SourceAssessor = {
  key: "iteration",
  name: "iteration",
  group: "numerical",
  stage: "settling",
  find,
  settle: ({ quantity: q }) => ({ sentence: `bring in a record of ${q.name} over the iterations, or estimate what is left`, go: "runs" }),
  effort: 7,
};
