"use client";

import { firstFew } from "@/core/formatting/firstFew";
import { significant } from "@/core/formatting/number";
import { useSave } from "../../forms/useSave";
import type { ComparisonView } from "../../view";
import type { Compared } from "./stations";

/** most that are asked for at once */
const MOST = 12;
/** most that are named */
const NAMED = 8;

/** Places of a yardstick that no run of a sweep lies at, with the offer to run them on the same mesh. */
export function NotRun({ view, c }: { view: ComparisonView; c: Compared }) {
  const { save, busy } = useSave();
  if (!c.sweep?.notRun.length) return null;
  const { axisKey, mesh, notRun } = c.sweep;
  const next = notRun.slice(0, MOST);
  const unit = c.units.abscissa === "1" ? "" : c.units.abscissa;
  const named = firstFew(
    notRun.map((v) => significant(v, 4)),
    NAMED,
  );
  // A sweep has two places at least: of a single one a place that is there already is run beside it.
  const at = next.length > 1 ? next : [...next, ...c.points.slice(0, 1).map((p) => p.at)];
  const { nx, ny } = mesh;
  const run = () => {
    if (nx === undefined || ny === undefined) return;
    const axes = [{ key: axisKey, values: at.map((v) => `${v} ${unit}`.trim()) }];
    void save("POST /cases/{id}/sweeps", { at: { id: view.id }, input: { axes, nx, ny } }, `${at.length} runs wait in the queue.`);
  };
  return (
    <p className="mt-2 flex flex-wrap items-baseline gap-3 text-[12.5px] text-ink-2">
      <span>
        Not run: {named} {unit}. Between runs the curve is read by interpolation, beyond them not at all.
      </span>
      {nx === undefined ? (
        <span>Bring in runs made there.</span>
      ) : (
        <button type="button" className="btn quiet small" disabled={busy} onClick={run}>
          Run {next.length === 1 ? "it" : `${next.length} of them`} on {mesh.label}
        </button>
      )}
    </p>
  );
}
