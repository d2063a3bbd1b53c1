"use client";

import { MomentBar } from "../../field/MomentBar";
import type { Result } from "./useResults";

/** Moments of results in time: all views go together. */
export function Moments({ results, goTo }: { readonly results: readonly Result[]; readonly goTo: (at: number) => Promise<unknown> }) {
  const longest = results.reduce((most, r) => Math.max(most, r.moments.length), 0);
  const of = results.find((r) => r.moments.length === longest);
  if (longest < 2 || !of) return null;
  const { time } = of.moments[of.at];
  return <MomentBar count={longest} at={of.at} words={time === undefined ? "" : `t ${time}`} goTo={goTo} />;
}
