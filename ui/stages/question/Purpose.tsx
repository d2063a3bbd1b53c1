import type { ProblemDescription } from "@/core/problems/describe/problem";
import { QuestionEntry } from "./entries";
import { ForeignPhysics } from "./ForeignPhysics";

/** What the case is for and what is solved: by the bench, or by another code and then asked. */
export function Purpose({ copiedFrom, problem }: { copiedFrom?: string; problem?: ProblemDescription }) {
  return (
    <section className="space-y-2" aria-label="Purpose">
      <QuestionEntry name="title" label="Name of the case" words />
      {copiedFrom ? (
        <p className="text-[12px] text-ink-2">Copied from {copiedFrom}: what was taken over and does not hold here is yours to change.</p>
      ) : null}
      <QuestionEntry name="purpose" label="Purpose" rows={3} />
      {problem ? (
        <>
          <p className="text-[12px] text-ink-2">{physicsSentence(problem)}</p>
          <p className="text-[12px] text-ink-3">{problem.order}</p>
        </>
      ) : (
        <ForeignPhysics />
      )}
    </section>
  );
}

/** What the bench solves for a template, in words. */
function physicsSentence({ physicsWords: w }: ProblemDescription): string {
  return `Physics: ${w.time}, ${w.compressible ? "compressible" : "incompressible"}, ${w.model}, ${w.space} flow, solved on the bench.`;
}
