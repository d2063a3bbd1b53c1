import type { ReportChapter } from "../stages/part.ts";
import { cell, table } from "../stages/table.ts";

/** Of meshes in space alone: a plane one stands with its run. */
export const meshesChapter: ReportChapter = {
  key: "meshes",
  title: "Meshes in space",
  sentences: ({ assessment: { meshes } }) =>
    meshes.flatMap((m) => (m.remarks.length ? m.remarks.map((r) => r.sentence) : [`${m.label}: no cell of ${m.file} lies beyond a limit.`])),
  tables: ({ assessment: { meshes } }) => [
    ...table(
      "mesh-quality",
      "Quality of the cells in space",
      ["run", "metric", "unit", "median", "worst", "limit", "cells beyond", "state"],
      meshes.flatMap((m) =>
        m.lines.map((l) => [m.label, l.name, l.unit, cell(l.median ?? undefined), cell(l.worst ?? undefined), cell(l.limit), l.beyond, l.state]),
      ),
    ),
    ...table(
      "mesh-layers",
      "Layers of cells along the outside",
      [
        "run",
        "along",
        "cells there",
        "with layers",
        "unit",
        "first height, least",
        "median",
        "greatest",
        "layers, least",
        "median",
        "growth, greatest",
      ],
      meshes.flatMap((m) =>
        m.layers.map((l) => [
          m.label,
          l.name || "all of the outside",
          l.cells,
          l.layered,
          m.length,
          cell(l.height?.least),
          cell(l.height?.median),
          cell(l.height?.greatest),
          cell(l.layers?.least),
          cell(l.layers?.median),
          cell(l.growth?.greatest),
        ]),
      ),
    ),
  ],
};
