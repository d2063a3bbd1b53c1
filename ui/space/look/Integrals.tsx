"use client";

import type { CutIntegral, SpaceScene } from "@/core/drawing/spaceScene";
import { significant, unitText } from "@/core/formatting/number";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable } from "../../tables/DataTable";
import type { Result } from "./useResults";

interface Row extends CutIntegral {
  readonly result: string;
}

/** What the field that is shown comes to over the cuts, of every result. */
export function Integrals({
  results,
  scenes,
  unit,
}: {
  readonly results: readonly Result[];
  readonly scenes: ReadonlyMap<string, SpaceScene>;
  readonly unit: string;
}) {
  const rows = results.flatMap((r) => (scenes.get(r.id)?.integrals ?? []).map((i): Row => ({ ...i, result: r.name })));
  if (!rows.length) return null;
  const figure = (v: number) => (Number.isFinite(v) ? significant(v, 5) : "–");
  const through = rows.some((r) => r.through !== undefined);
  const gaps = rows.some((r) => r.gaps > 0);
  const columns: Column<Row>[] = [
    ...(results.length > 1 ? [{ header: "Result", words: true, cell: (r: Row) => r.result }] : []),
    { header: "Cut", cell: (r) => r.number + 1 },
    { header: "Area", cell: (r) => figure(r.area) },
    { header: `Mean of ${rows[0].name}`, cell: (r) => r.mean.map(figure).join(", ") },
    ...(through
      ? [{ header: `Through it, ${unitText(unit) || "its unit"} times area`, cell: (r: Row) => (r.through === undefined ? "" : figure(r.through)) }]
      : []),
    ...(gaps ? [{ header: "Area without value", cell: (r: Row) => figure(r.gaps) }] : []),
  ];
  return (
    <section aria-label="Over the cuts" className="mt-2 max-w-[860px]">
      <div className="flex items-end justify-between">
        <h2>Over the cuts</h2>
        <CsvButton
          name="over the cuts"
          header={["result", "cut", "area", `mean of ${rows[0].name}`, "through it", "area without value"]}
          rows={rows.map((r) => [r.result, r.number + 1, r.area, r.mean.join(" "), r.through ?? "", r.gaps])}
        />
      </div>
      <DataTable rows={rows} rowKey={(r) => `${r.result} ${r.number}`} columns={columns} />
      <p className="text-[11.5px] text-ink-3">
        Means over the area, cell values as they are; areas in the square of the file’s unit of length
        {through ? "; what goes through a cut counts towards the direction it stands across" : ""}.
      </p>
    </section>
  );
}
