import type { LayersAlong, Spread } from "@/core/dataset/gridLayers";
import { MOST_LAYERS } from "@/core/dataset/metrics";
import { count, significant } from "@/core/formatting/number";
import { CsvButton } from "./CsvButton";
import { DataTable } from "./DataTable";

const figure = (v: number | undefined, digits = 3): string => (v === undefined ? "–" : significant(v, digits));
const between = (s: Spread | undefined): string => {
  const [least, greatest] = [figure(s?.least), figure(s?.greatest)];
  return least === greatest ? least : `${least} to ${greatest}`;
};

/** Layers of cells along the outside of a mesh in space: how high the first cell is, how many follow, how fast they grow. */
export function LayersTable({ layers, length, name }: { readonly layers: readonly LayersAlong[]; readonly length: string; readonly name: string }) {
  if (!layers.length) return null;
  const place = layers.find((l) => l.steepest && (l.growth?.greatest ?? 1) > 1.01);
  return (
    <section className="mt-3" aria-label="Layers along the outside">
      <div className="flex items-end justify-between">
        <h3>Layers along the outside</h3>
        <CsvButton
          name={`layers of ${name}`}
          header={[
            "along",
            "faces",
            "cells",
            "with layers",
            ...["height", "layers", "growth"].flatMap((h) => [`${h} least`, `${h} median`, `${h} greatest`]),
          ]}
          rows={layers.map((l) => [
            l.name || "all of the outside",
            l.faces,
            l.cells,
            l.layered,
            ...[l.height, l.layers, l.growth].flatMap((s) => [s?.least ?? "", s?.median ?? "", s?.greatest ?? ""]),
          ])}
        />
      </div>
      <DataTable
        rows={layers}
        rowKey={(l) => l.name}
        columns={[
          { header: "Along", words: true, cell: (l) => l.name || "all of the outside" },
          { header: "Cells there", cell: (l) => count(l.cells) },
          { header: "with layers", cell: (l) => count(l.layered) },
          { header: `First height, ${length}`, cell: (l) => between(l.height) },
          { header: "median", cell: (l) => figure(l.height?.median) },
          { header: "Layers", cell: (l) => (l.layers ? `${l.layers.least} to ${l.layers.greatest}` : "–") },
          { header: "median", cell: (l) => l.layers?.median ?? "–" },
          { header: "Growth, at most", cell: (l) => figure(l.growth?.greatest) },
        ]}
      />
      <p className="mt-1 text-[12px] text-ink-2">
        A cell has layers where its face outside has one opposite; they end where heights change by more than a factor of two, and count to{" "}
        {MOST_LAYERS} at most.
        {place?.steepest
          ? ` The steepest growth along ${place.name || "the outside"}: cell ${place.steepest.cell} at ${place.steepest.at.map((v) => significant(v, 3)).join(", ")} ${length}.`
          : ""}
      </p>
    </section>
  );
}
