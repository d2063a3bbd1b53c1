"use client";

import { useState } from "react";
import { count, duration, percent, signedPercent, unitText, withUncertainty } from "@/core/formatting/number";
import type { QuantitySpec } from "@/core/records/quantity";
import { useSave } from "../../forms/useSave";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import { useRest } from "../../tables/useRest";
import type { RefinementView } from "../../view";
import { DecideForm } from "./DecideForm";

/** rungs that come with the page */
const FIRST = 24;

type Refined = RefinementView["assessment"]["refinement"][number];
type Rung = Refined["rungs"][number];

interface RungsProps {
  readonly caseId: string;
  readonly r: Refined;
  readonly q: QuantitySpec;
  /** what shares are of */
  readonly scale: number;
}

/** The meshes of a study, finest first, with what changed from each to the next. */
export function Rungs({ caseId, r, q, scale }: RungsProps) {
  const [leaving, leave] = useState<Rung>();
  const shown = useRest(r.rungs, FIRST);
  const { save, busy } = useSave();
  const takeBack = (g: Rung) =>
    void save(
      "DELETE /cases/{id}/studies/{kind}/{of}",
      { at: { id: caseId, kind: "leave-out", of: g.runId } },
      `${g.label} stands on the ladders again.`,
    );
  return (
    <>
      <div className="mt-3 flex justify-between">
        <h2>The rungs</h2>
        <CsvButton
          name={`ladder-${q.key}`}
          header={["mesh", "cells", "spacing (m)", `${q.name} (${q.unit})`, "used", "left out because"]}
          rows={r.rungs.map((g) => [g.label, g.cells, g.spacing, g.value ?? "", g.used ? "yes" : "no", g.leftOut?.reason ?? ""])}
        />
      </div>
      <DataTable
        className=""
        rows={shown}
        rowKey={(g) => g.runId}
        rowClass={(g) => (g.used ? "" : "text-ink-3")}
        columns={[...columnsOf(r, unitText(q.unit), scale), actsColumn(busy, leave, takeBack)]}
      />
      {leaving ? (
        <DecideForm
          key={leaving.runId}
          caseId={caseId}
          what={{ kind: "leave-out", runId: leaving.runId }}
          words={`Leave ${leaving.label} out`}
          said={`${leaving.label} was left out of the ladders.`}
          done={() => leave(undefined)}
        />
      ) : null}
    </>
  );
}

function columnsOf(r: Refined, unit: string, scale: number): Column<Rung>[] {
  const monotone = r.result?.kind === "monotone" ? r.result : undefined;
  const indices = [monotone?.indexFine, monotone?.indexMedium];
  const used = r.rungs.filter((g) => g.used);
  const finest = (used[0] ?? r.rungs[0])?.spacing ?? 1;
  const change = (g: Rung, finer: Rung | undefined) =>
    finer?.value != null && g.value != null ? signedPercent((g.value - finer.value) / scale) : "";
  return [
    {
      header: "Mesh",
      cell: (g) => (
        <>
          {g.label}
          {g.leftOut ? (
            <span className="ml-2 font-sans text-[11.5px]">
              left out by {g.leftOut.by}: {g.leftOut.reason}
            </span>
          ) : g.used ? null : (
            <span className="ml-2 font-sans text-[11.5px]">without this value</span>
          )}
        </>
      ),
    },
    { header: "Cells", cell: (g) => count(g.cells) },
    { header: "h / h₁", cell: (g) => (g.spacing / finest).toFixed(3) },
    {
      header: `Value${unit ? `, ${unit}` : ""}`,
      cell: (g) => (g.value == null ? "–" : withUncertainty(g.value, r.uncertainty === undefined ? undefined : r.uncertainty / 10)),
    },
    { header: "Change", cell: (g) => change(g, used[used.indexOf(g) - 1]) },
    {
      header: "Index",
      cell: (g) => {
        const index = indices[used.indexOf(g)];
        return index === undefined ? "" : percent(index / scale);
      },
    },
    { header: "Iteration error", cell: (g) => percent(g.iterationError / scale) },
    { header: "Time", cell: (g) => (g.seconds ? duration(g.seconds) : "") },
  ];
}

const actsColumn = (busy: boolean, leave: (g: Rung) => void, takeBack: (g: Rung) => void): Column<Rung> => ({
  header: <Unseen>Acts</Unseen>,
  words: true,
  cell: (g) => (
    <button
      type="button"
      className="link text-[12px]"
      disabled={busy}
      aria-label={`${g.leftOut ? "Take back" : "Leave out"} ${g.label}`}
      onClick={() => (g.leftOut ? takeBack(g) : leave(g))}
    >
      {g.leftOut ? "Take back" : "Leave out"}
    </button>
  ),
});
