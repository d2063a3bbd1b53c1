import type { ReportChapter } from "../stages/part.ts";
import { cell, table } from "../stages/table.ts";

/** Of meshes in space alone: a plane one stands with its run. */
export const meshesChapter: ReportChapter = {
  key: "meshes",
  title: "Meshes in space",
  sentences: ({ assessment: { meshes } }) =>
    meshes.flatMap((m) => (m.remarks.length ? m.remarks.map((r) => r.sentence) : [`${m.label}: no cell of ${m.file} lies beyond a limit.`])),
  tables: ({ assessment: { meshes } }) =>
    table(
      "mesh-quality",
      "Quality of the cells in space",
      ["run", "metric", "unit", "median", "worst", "limit", "cells beyond", "state"],
      meshes.flatMap((m) =>
        m.lines.map((l) => [m.label, l.name, l.unit, cell(l.median ?? undefined), cell(l.worst ?? undefined), cell(l.limit), l.beyond, l.state]),
      ),
    ),
};
