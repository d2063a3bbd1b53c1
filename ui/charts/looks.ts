import { INK } from "@/core/drawing/palette";

/** How axes look on every chart that answers the pointer. */
export const AXIS = {
  tick: { fontSize: 11, fontFamily: "var(--font-mono)", fill: INK.ink2 },
  tickLine: false,
  stroke: INK.line,
} as const;

/** The slip that says the values under the pointer. */
export const TIP = {
  background: "var(--color-sheet)",
  color: "var(--color-ink)",
  border: "1px solid var(--color-line)",
  borderRadius: 3,
  fontSize: 12,
  padding: "4px 8px",
} as const;

/** Words over lines keep a rim of paper about them. */
export const HALO = { stroke: "#FAF9F5", strokeWidth: 3, paintOrder: "stroke" } as const;
