import { count, duration, percent, signedPercent, unitText, withUncertainty } from "@/core/formatting/number";
import type { QuantitySpec } from "@/core/records/quantity";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable } from "../../tables/DataTable";
import type { RefinementView } from "../../view";

type Refined = RefinementView["assessment"]["refinement"][number];
type Rung = Refined["rungs"][number];

interface RungsProps {
  readonly r: Refined;
  readonly q: QuantitySpec;
  /** what shares are of */
  readonly scale: number;
}

/** The meshes of a study, finest first, with what changed from each to the next. */
export function Rungs({ r, q, scale }: RungsProps) {
  return (
    <>
      <div className="mt-3 flex justify-between">
        <h2>The rungs</h2>
        <CsvButton
          name={`ladder-${q.key}`}
          header={["mesh", "cells", "spacing (m)", `${q.name} (${q.unit})`, "used"]}
          rows={r.rungs.map((g) => [g.label, g.cells, g.spacing, g.value ?? "", g.used ? "yes" : "no"])}
        />
      </div>
      <DataTable
        className=""
        rows={r.rungs}
        rowKey={(g) => g.runId}
        rowClass={(g) => (g.used ? "" : "text-ink-3")}
        columns={columnsOf(r, unitText(q.unit), scale)}
      />
    </>
  );
}

function columnsOf(r: Refined, unit: string, scale: number): Column<Rung>[] {
  const monotone = r.result?.kind === "monotone" ? r.result : undefined;
  const indices = [monotone?.indexFine, monotone?.indexMedium];
  const finest = r.rungs[0]?.spacing ?? 1;
  const change = (g: Rung, finer: Rung | undefined) =>
    finer?.value != null && g.value != null ? signedPercent((g.value - finer.value) / scale) : "";
  return [
    {
      header: "Mesh",
      cell: (g) => (
        <>
          {g.label}
          {g.used ? "" : <span className="ml-2 font-sans text-[11.5px]">left out of the fit</span>}
        </>
      ),
    },
    { header: "Cells", cell: (g) => count(g.cells) },
    { header: "h / h₁", cell: (g) => (g.spacing / finest).toFixed(3) },
    {
      header: `Value${unit ? `, ${unit}` : ""}`,
      cell: (g) => (g.value == null ? "–" : withUncertainty(g.value, r.result ? r.result.uncertainty / 10 : undefined)),
    },
    { header: "Change", cell: (g, i) => change(g, r.rungs[i - 1]) },
    { header: "Index", cell: (_, i) => (indices[i] === undefined ? "" : percent(indices[i] / scale)) },
    { header: "Iteration error", cell: (g) => percent(g.iterationError / scale) },
    { header: "Time", cell: (g) => (g.seconds ? duration(g.seconds) : "") },
  ];
}
