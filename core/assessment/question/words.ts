import { significant } from "../../formatting/number.ts";
import type { Margin, MarginNote } from "../results/margin.ts";
import { remarksAsNotes } from "../stages/notes.ts";
import type { Told } from "../stages/part.ts";

const RULE = "setup-complete";

/** What the margin says of the set-up. */
export function questionWords({ evidence, assessment: a }: Told): Margin {
  const reynolds = a.setup.similarity.find((s) => s.key === "reynolds");
  const said = remarksAsNotes(a.setup.remarks);
  const nothing: MarginNote = {
    heading: "Nothing contradicts itself",
    sentence: "Every set-up rule that applies was checked and none has anything to say.",
    rule: RULE,
  };
  return {
    label: "Reynolds number, computed",
    figure: reynolds ? significant(reynolds.value, 5) : "",
    verdict: a.setup.state === "fails" ? "The set-up contradicts itself" : "",
    tone: a.setup.state,
    notes: [...(said.length ? said : [nothing]), next(a.setup.remarks.filter((r) => r.severity === "stop" && !r.answered).length)],
  };

  function next(stops: number): MarginNote {
    const heading = "Next";
    if (stops) {
      const what = stops === 1 ? "what contradicts itself" : `the ${stops} contradictions`;
      const sentence = `Mend ${what}, or accept ${stops === 1 ? "it" : "each"} with a reason; runs made before a change count as stale.`;
      return { heading, rule: RULE, sentence };
    }
    if (a.ladder.length) return { heading, rule: RULE, sentence: "The set-up can stand. See whether the runs have settled.", go: "settling" };
    const sentence = "The set-up can stand. Plan a family of meshes, or bring in results.";
    return { heading, sentence, go: evidence.runs.length ? "runs" : "meshes" };
  }
}
