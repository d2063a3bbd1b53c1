"use client";

import { PanelRightClose, PanelRightOpen } from "lucide-react";
import Link from "next/link";
import { useEffect, useState } from "react";
import type { Margin } from "@/core/assessment/results/margin";
import type { Stage } from "@/core/assessment/results/stage";

const TONES: Readonly<Record<Margin["tone"], string>> = {
  holds: "text-verdigris",
  remark: "text-brass-deep",
  none: "text-brass-deep",
  fails: "text-pointer-deep",
  stale: "text-pointer-deep",
};

/** Where a finding about what stands in the margin is written. */
const offHref = (margin: Margin, id: string, quantityKey: string, stage: Stage) =>
  `/cases/${id}/verdict?${new URLSearchParams({ q: quantityKey, off: stage, what: `${margin.label} ${margin.figure}. ${margin.notes[0]?.sentence ?? ""}`.trim().slice(0, 400) })}`;

/** The margin: what the evidence says, against which limit, the doubts, the next step. */
export function MarginColumn({ margin, id, quantityKey, stage }: { margin: Margin; id: string; quantityKey: string; stage: Stage }) {
  const [folded, setFolded] = useState(false);
  // Where there is little room the margin begins folded; a person unfolds it.
  useEffect(() => setFolded(window.matchMedia("(max-width: 1099px)").matches), []);
  if (folded)
    return (
      <aside className="flex w-9 shrink-0 justify-center border-l border-line bg-margin pt-3" aria-label="What the evidence says, folded">
        <button type="button" className="h-7 w-7" onClick={() => setFolded(false)} aria-label="Unfold the margin" aria-expanded={false}>
          <PanelRightOpen size={16} />
        </button>
      </aside>
    );
  return (
    <aside
      className="relative w-[284px] shrink-0 overflow-auto border-l border-line bg-margin px-[18px] py-4"
      aria-label="What the evidence says"
      tabIndex={0}
    >
      <button
        type="button"
        className="absolute top-2.5 right-2 h-7 w-7 text-ink-3"
        onClick={() => setFolded(true)}
        aria-label="Fold the margin"
        aria-expanded={true}
      >
        <PanelRightClose size={15} />
      </button>
      <p className="pr-7 text-[11.5px] text-ink-3">{margin.label}</p>
      <p className="font-mono text-[25px] font-medium tracking-[-0.02em]">{margin.figure}</p>
      {margin.verdict ? <p className={`mt-1 mb-2 text-[12.5px] font-semibold ${TONES[margin.tone]}`}>{margin.verdict}</p> : <div className="mb-2" />}
      {stage === "report" ? null : (
        <Link className="link no-print mb-2 inline-block text-[12px] text-ink-3" href={offHref(margin, id, quantityKey, stage)}>
          This is off: write a finding
        </Link>
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
