"use client";

import { useFocusOnOpen } from "../../forms/useFocusOnOpen";

export interface Consequence {
  readonly sentence: string;
  readonly anew: string;
}

/** What saving the question would leave behind, before it is saved. */
export function Consequences({ list, busy, save, leave }: { list: readonly Consequence[]; busy: boolean; save: () => void; leave: () => void }) {
  const own = useFocusOnOpen<HTMLDivElement>();
  return (
    <div ref={own} role="alertdialog" aria-label="What goes stale" className="mb-4 border border-brass bg-margin p-3">
      <p className="font-[600]">This changes the set-up. What rests on the one before goes stale:</p>
      <ul className="mt-1 list-disc pl-5 text-[12.5px] text-ink-2">
        {list.map((c) => (
          <li key={c.sentence}>{c.sentence}</li>
        ))}
      </ul>
      <div className="mt-2 flex gap-2">
        <button type="button" className="btn" disabled={busy} onClick={save}>
          Save all the same
        </button>
        <button type="button" className="btn quiet" onClick={leave}>
          Leave it as it is
        </button>
      </div>
    </div>
  );
}
