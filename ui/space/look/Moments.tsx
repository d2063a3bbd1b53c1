"use client";

import { useEffect, useRef, useState } from "react";
import type { Result } from "./useResults";

/** Moments of results in time: one by one, or played; all views go together. */
export function Moments({ results, goTo }: { readonly results: readonly Result[]; readonly goTo: (at: number) => Promise<unknown> }) {
  const longest = results.reduce((most, r) => Math.max(most, r.moments.length), 0);
  const at = results.find((r) => r.moments.length === longest)?.at ?? 0;
  const [playing, setPlaying] = useState(false);
  const [round, setRound] = useState(true);
  const now = useRef({ at, round });
  now.current = { at, round };
  useEffect(() => {
    if (!playing || longest < 2) return undefined;
    let going = true;
    void (async () => {
      while (going) {
        const next = now.current.at + 1;
        if (next >= longest && !now.current.round) break;
        // The next is asked for when this one is seen, however long it took to read.
        await Promise.all([goTo(next % longest), new Promise((r) => setTimeout(r, 250))]);
      }
      if (going) setPlaying(false);
    })();
    return () => {
      going = false;
    };
  }, [playing, longest, goTo]);
  if (longest < 2) return null;
  const shown = results.find((r) => r.moments.length === longest)?.moments[at];
  return (
    <fieldset className="no-print mt-1 flex items-center gap-3 text-[12px]">
      <legend className="sr-only">Moments</legend>
      <button type="button" className="btn quiet small" onClick={() => setPlaying(!playing)}>
        {playing ? "Stop" : "Play"}
      </button>
      <button type="button" className="btn quiet small" disabled={at === 0} onClick={() => void goTo(at - 1)}>
        One back
      </button>
      <button type="button" className="btn quiet small" disabled={at === longest - 1} onClick={() => void goTo(at + 1)}>
        One on
      </button>
      <input
        type="range"
        className="w-64"
        aria-label="Moment"
        min={0}
        max={longest - 1}
        value={at}
        onChange={(e) => void goTo(Number(e.target.value))}
      />
      <span className="font-mono text-[11.5px]">
        {at + 1} of {longest}
        {shown?.time === undefined ? "" : `, t ${shown.time}`}
      </span>
      <label className="flex items-center gap-1">
        <input type="checkbox" checked={round} onChange={(e) => setRound(e.target.checked)} /> again from the first
      </label>
    </fieldset>
  );
}
