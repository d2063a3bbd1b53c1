import { percent } from "../../formatting/number.ts";
import { worst } from "../../remarks/remark.ts";
import type { Margin } from "../results/margin.ts";
import { remarksAsNotes } from "../stages/notes.ts";
import type { Told } from "../stages/part.ts";

/** What the margin says of meshes in space; of plane ones their table says it. */
export function meshesWords({ assessment: { meshes } }: Told): Margin | undefined {
  if (!meshes.length) return undefined;
  const share = Math.max(...meshes.map((m) => Math.max(0, ...m.lines.map((l) => l.beyond)) / m.cells));
  const state = worst(meshes.map((m) => m.state));
  return {
    label: "Cells beyond a limit, at most",
    figure: percent(share),
    verdict: state === "fails" ? "Some cells are none" : share ? "Look where they sit" : "No cell is",
    tone: state,
    notes: meshes.flatMap((m) => remarksAsNotes(m.remarks)),
  };
}
