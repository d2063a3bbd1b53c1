"use client";

import nextDynamic from "next/dynamic";
import Link from "next/link";
import { useState } from "react";
import type { CaseAssessment } from "@/core/assessment/results/case";
import { count, significant } from "@/core/formatting/number";
import { StateMark } from "../../shell/StateMark";
import { Bars } from "../../tables/Bars";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import { LayersTable } from "../../tables/LayersTable";
import { metricFigure, metricName, qualityCsv } from "../../tables/qualityFigures";
import type { JudgedMesh } from "../../view";

const MeshLookedAt = nextDynamic(() => import("../../space/MeshLookedAt").then((m) => m.MeshLookedAt));

type Found = CaseAssessment["meshes"][number];
type Line = Found["lines"][number];

/** Quality of a mesh in space, metric by metric, with its worst cells in place. */
export function SpaceMesh({ judged: { runId, label, quality: q }, found }: { readonly judged: JudgedMesh; readonly found: Found | undefined }) {
  const [metric, setMetric] = useState<string>();
  const [open, setOpen] = useState(false);
  if (!found) return null;
  const kept = (l: Line) => q.metrics.find((m) => m.metric === l.metric);
  const chosen = q.metrics.find((m) => m.metric === (metric ?? found.lines.find((l) => l.beyond)?.metric ?? found.lines[0]?.metric));
  const columns: readonly Column<Line>[] = [
    {
      header: "Metric",
      words: true,
      cell: (l) => (
        <button type="button" className="link" aria-pressed={chosen?.metric === l.metric} onClick={() => setMetric(l.metric)}>
          {metricName(l.metric)}
        </button>
      ),
    },
    { header: "Median", cell: (l) => metricFigure(l.median) },
    { header: "Worst", cell: (l) => metricFigure(l.worst) },
    { header: "Limit", cell: (l) => l.limit },
    { header: "Beyond it", cell: (l) => count(l.beyond) },
    { header: "From least to worst", cell: (l) => <Bars counts={kept(l)?.counts ?? []} /> },
    { header: <Unseen>State</Unseen>, words: true, cell: (l) => <StateMark state={l.state} /> },
  ];
  return (
    <section className="mt-5" aria-label={`Cells of ${label}`}>
      <div className="flex items-end justify-between">
        <h2>
          {count(q.cells)} cells in space of {label} <span className="text-[11.5px] font-normal text-ink-3">{q.file.name}</span>
        </h2>
        <span className="flex items-end gap-3">
          <CsvButton name={`quality of ${label}`} {...qualityCsv(q.metrics)} />
          <Link className="link text-[12px]" href={`/look?run=${runId}`}>
            Cuts and fields in space
          </Link>
          <button type="button" className="btn quiet small" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "Close the mesh" : "Look at the mesh"}
          </button>
        </span>
      </div>
      <DataTable rows={found.lines} rowKey={(l) => l.metric} rowClass={(l) => (l.metric === chosen?.metric ? "bg-margin" : "")} columns={columns} />
      {chosen ? (
        <p className="mt-1 text-[12px] text-ink-2">
          Worst cells:{" "}
          {chosen.cells.map((c) => `${c.cell} (${metricFigure(c.value)}) at ${c.at.map((v) => significant(v, 3)).join(", ")}`).join("; ")} {q.length}.
        </p>
      ) : null}
      <LayersTable layers={found.layers} length={found.length} name={label} />
      {open ? <MeshLookedAt runId={runId} label={label} length={q.length} places={chosen?.cells.map((c) => c.at) ?? []} /> : null}
    </section>
  );
}
