"use client";

import { createContext, type ReactNode, useContext, useState } from "react";

const Origin = createContext("");

/** Says for every figure inside what the page rests on. */
export function OriginOf({ said, children }: { said: string; children: ReactNode }) {
  return <Origin value={said}>{children}</Origin>;
}

/** What a figure rests on in one sentence: what it alone shows, and what all of its page does; empty where neither is known. */
export function useOrigin(of: string | undefined): string {
  const page = useContext(Origin);
  return [of, page].filter(Boolean).join("; ");
}

/** A chip at the head of a figure that tells what it rests on, below the figure, when it is pressed. */
export function RestsOnChip({ said, name, right = "right-2" }: { said: string; name: string; right?: string }) {
  const [open, setOpen] = useState(false);
  if (!said) return null;
  return (
    <>
      <button
        type="button"
        className={`no-print absolute -top-5 rounded border border-line bg-sheet px-1 font-mono text-[10px] text-ink-3 ${right}`}
        aria-expanded={open}
        aria-label={`What ${name} rests on`}
        onClick={() => setOpen(!open)}
      >
        from
      </button>
      {open ? <p className="text-[11.5px] text-ink-2">Rests on {said}.</p> : null}
    </>
  );
}
