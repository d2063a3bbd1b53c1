import { profileChart } from "@/core/drawing/caseCharts";
import { percent, significant } from "@/core/formatting/number";
import type { Profile } from "@/core/records/profile";
import { Drawing } from "../../charts/Drawing";
import type { ComparisonView } from "../../view";

type Compared = ComparisonView["assessment"]["comparison"]["profiles"][number];

/** Every curve against every yardstick that has it. */
export function Profiles({ profiles, own }: { profiles: readonly Compared[]; own: readonly Profile[] }) {
  return (
    <div className="mt-5 grid grid-cols-2 gap-6">
      {profiles.map((p) => {
        const simulated = own.find((x) => x.key === p.profileKey);
        if (!simulated) return null;
        return (
          <section key={p.profileKey + p.yardstick} aria-label={`${p.name}, ${p.yardstick}`}>
            <h2>{p.name}</h2>
            <Drawing svg={profileChart(p, simulated)} name={`${p.profileKey} ${p.yardstick}`} />
            <p className="text-[12px] text-ink-2">{sentenceOf(p)}</p>
          </section>
        );
      })}
    </div>
  );
}

function sentenceOf(p: Compared): string {
  const [mean, rms, largest] = [p.l1, p.l2, p.linf].map((d) => percent(d / p.range));
  return [
    `${p.points.length} points of ${p.yardstick}: mean ${mean}, root mean square ${rms}, largest ${largest} of the range.`,
    p.worst ? `Worst at ${significant(p.worst.at, 3)}: ${significant(Math.abs(p.worst.difference), 2)}.` : "",
    p.worst?.doubtful ? `That point ${p.worst.doubtful}; it takes no part in the norms.` : "",
    p.outside ? `${p.outside} points lie outside and were left out.` : "",
  ]
    .filter(Boolean)
    .join(" ");
}
