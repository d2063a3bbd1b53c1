import { significant } from "../../../formatting/number.ts";
import { TAKE_WORDS } from "../../../records/take.ts";
import { finite, type SourceAssessor } from "./source.ts";

/** The uncertainty of the mean, where the mean stands for the run's value. */
export const averaging: SourceAssessor = {
  key: "averaging",
  name: "averaging",
  group: "numerical",
  stage: "settling",
  find: ({ quantity: q, settling, finest, scale }) => {
    const average = settling?.averages.find((a) => a.key === q.key && a.adopted);
    return (
      average && {
        at: finest?.finishedAt,
        relative: average.taken && finite(average.taken.expanded / scale.value),
        note: `${TAKE_WORDS[average.take]} of ${average.samples} samples, ${significant(average.effectiveSamples, 3)} of them independent`,
      }
    );
  },
  settle: ({ quantity: q }) => ({ sentence: `average ${q.name} over a longer record`, go: "settling" }),
  effort: 6,
};
