"use client";

import { useEffect, useRef, useState } from "react";

interface Props {
  readonly count: number;
  /** which one is shown, from 0 */
  readonly at: number;
  /** what stands beside its number, such as its time */
  readonly words: string;
  /** shows another; done when it is there */
  readonly goTo: (at: number) => Promise<unknown> | undefined;
}

const LEAST_MS = 250;

/** Goes through moments one by one, or plays them. */
export function MomentBar({ count, at, words, goTo }: Props) {
  const [playing, setPlaying] = useState(false);
  const [round, setRound] = useState(true);
  const now = useRef({ at, round, goTo });
  now.current = { at, round, goTo };
  useEffect(() => {
    if (!playing || count < 2) return undefined;
    let going = true;
    void (async () => {
      while (going) {
        const next = now.current.at + 1;
        if (next >= count && !now.current.round) break;
        // The next is asked for when this one is seen, however long it took to read.
        await Promise.all([now.current.goTo(next % count), new Promise((r) => setTimeout(r, LEAST_MS))]);
      }
      if (going) setPlaying(false);
    })();
    return () => {
      going = false;
    };
  }, [playing, count]);
  return (
    <fieldset className="no-print mt-2.5 flex flex-wrap items-center gap-x-3 gap-y-1 text-[12px]">
      <legend className="sr-only">Moments</legend>
      <button type="button" className="btn quiet small" onClick={() => setPlaying(!playing)}>
        {playing ? "Stop" : "Play"}
      </button>
      <button type="button" className="btn quiet small" disabled={at === 0} onClick={() => void goTo(at - 1)}>
        One back
      </button>
      <button type="button" className="btn quiet small" disabled={at === count - 1} onClick={() => void goTo(at + 1)}>
        One on
      </button>
      <input
        type="range"
        className="w-40"
        aria-label="Moment"
        aria-valuetext={words}
        min={0}
        max={count - 1}
        value={at}
        onChange={(e) => void goTo(Number(e.target.value))}
      />
      <span className="font-mono text-[11.5px]">
        {at + 1} of {count}
        {words ? `, ${words}` : ""}
      </span>
      <label className="flex items-center gap-1">
        <input type="checkbox" checked={round} onChange={(e) => setRound(e.target.checked)} /> again from the first
      </label>
    </fieldset>
  );
}
