import Link from "next/link";
import type { Margin } from "@/core/assessment/margin";

/** The margin: what the evidence says, against which limit, the doubts, the next step. */
export function MarginColumn({ margin, id, quantityKey }: { margin: Margin; id: string; quantityKey: string }) {
  const fails = /fail|not settled|does not close|contradicts/i.test(margin.verdict);
  return (
    <aside
      className="w-[284px] shrink-0 overflow-auto border-l border-line bg-margin px-[18px] py-4"
      aria-label="What the evidence says"
      tabIndex={0}
    >
      <p className="text-[11.5px] text-ink-3">{margin.label}</p>
      <p className="font-mono text-[25px] font-medium tracking-[-0.02em]">{margin.figure}</p>
      {margin.verdict ? (
        <p className={`mt-1 mb-2 text-[12.5px] font-semibold ${fails ? "text-pointer-deep" : "text-verdigris"}`}>{margin.verdict}</p>
      ) : (
        <div className="mb-2" />
      )}
      {margin.notes.map((n) => (
        <div key={n.heading + n.sentence} className="border-t border-line py-2.5">
          <h3>{n.heading}</h3>
          <p className="mt-0.5 text-[12.5px] text-ink-2">{n.sentence}</p>
          <p className="mt-1 flex gap-3 text-[11.5px]">
            {n.rule ? (
              <Link className="link text-ink-3" href={`/method#${n.rule}`}>
                rule: {n.rule}
              </Link>
            ) : null}
            {n.go ? (
              <Link className="link" href={`/cases/${id}/${n.go}?q=${encodeURIComponent(quantityKey)}`}>
                Go to {n.go}
              </Link>
            ) : null}
          </p>
        </div>
      ))}
    </aside>
  );
}
