"use client";

import { useState } from "react";
import { amongChart } from "@/core/drawing/amongChart";
import { axisText, percent, signedPercent, significant, unitText, withUncertainty } from "@/core/formatting/number";
import type { QuantitySpec } from "@/core/records/quantity";
import { Drawing } from "../../charts/Drawing";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { CsvButton } from "../../tables/CsvButton";
import { DataTable } from "../../tables/DataTable";
import type { ComparisonView } from "../../view";

type Found = ComparisonView["assessment"]["comparison"]["codes"][string];

/** Values of the chosen quantity by the finest run of every code, and any run put beside them, each against the others; yardsticks stand by. */
export function Codes({ view }: { view: ComparisonView }) {
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const found = q && view.assessment.comparison.codes[q.key];
  if (!q) return null;
  const chosen = (view.setup.studies?.amongst ?? []).map((a) => a.runId);
  const others = view.runs.filter((r) => r.finished && r.current && r.id !== view.assessment.ladder[0] && !chosen.includes(r.id));
  const only = others.length === 0 && chosen.length === 0;
  if (!found && only) return null;
  return (
    <section className="mt-5" aria-label="Runs among one another">
      <h2>Runs among one another: {q.name}</h2>
      {found ? (
        <Amongst found={found} q={q} scale={view.assessment.rules.find((r) => r.quantityKey === q.key)?.scale ?? Math.abs(found.mean)} />
      ) : null}
      {only ? null : <Beside view={view} chosen={chosen} others={others} />}
    </section>
  );
}

function Amongst({ found, q, scale }: { found: Found; q: QuantitySpec; scale: number }) {
  const unit = unitText(q.unit);
  const rows = [
    ...found.each.map((p) => ({ ...p, kind: "run" })),
    ...found.beside.map((b) => ({ ...b, kind: "yardstick", others: found.mean, difference: -b.difference })),
  ];
  return (
    <>
      <div className="mt-3">
        <Drawing
          wide
          svg={amongChart(found, axisText({ name: q.name, unit: q.unit }))}
          name={`${q.name} among one another`}
          of={found.each.map((x) => x.label).join(", ")}
        />
      </div>
      <div className="flex justify-end">
        <CsvButton
          name={`${q.name} among one another`}
          header={["run or yardstick", "kind", "value", "uncertainty at 95 %", "mean of the other runs", "difference", "unit"]}
          rows={rows.map((p) => [p.label, p.kind, p.value, p.uncertainty ?? "", p.others, p.difference, q.unit])}
        />
      </div>
      <DataTable
        className="tight mt-1"
        rows={rows}
        rowKey={(p) => `${p.kind} ${p.label}`}
        rowClass={(p) => (p.kind === "yardstick" ? "text-brass-deep" : "")}
        columns={[
          { header: "Run or yardstick", words: true, cell: (p) => (p.kind === "yardstick" ? `${p.label} (yardstick)` : p.label) },
          { header: "Value", cell: (p) => `${withUncertainty(p.value, p.uncertainty ?? Math.abs(found.spread))} ${unit}`.trimEnd() },
          { header: "± 95 %", cell: (p) => (p.uncertainty == null ? "–" : percent(p.uncertainty / scale)) },
          { header: "Mean of the other runs", cell: (p) => significant(p.others, 5) },
          { header: "Difference", cell: (p) => signedPercent(p.difference / scale) },
        ]}
      />
      <p className="mt-1 text-[11.5px] text-ink-3">
        {found.sentence} Mean {significant(found.mean, 5)} {unit}, standard deviation {percent(found.spread / scale)}; yardsticks take no part in
        either.
      </p>
    </>
  );
}

interface BesideProps {
  readonly view: ComparisonView;
  readonly chosen: readonly string[];
  readonly others: ComparisonView["runs"];
}

/** Puts a run beside those that are held against one another, of whatever mesh, model or code, and takes it away again. */
function Beside({ view, chosen, others }: BesideProps) {
  const { save, busy } = useSave();
  const [picked, setPicked] = useState("");
  const runId = others.some((r) => r.id === picked) ? picked : (others[0]?.id ?? "");
  const nameOf = (id: string) => {
    const run = view.runs.find((r) => r.id === id);
    return run ? `${run.code}, ${run.label}` : "a run that is gone";
  };
  const put = () =>
    save("POST /cases/{id}/studies", { at: { id: view.id }, input: { kind: "amongst", runId } }, `${nameOf(runId)} stands beside the others.`);
  const take = (of: string) =>
    save("DELETE /cases/{id}/studies/{kind}/{of}", { at: { id: view.id, kind: "amongst", of } }, `${nameOf(of)} was taken away.`);
  return (
    <div className="no-print mt-2 flex flex-wrap items-end gap-3">
      {others.length ? (
        <>
          <Field
            label="Run to put beside them"
            value={runId}
            onChange={setPicked}
            choices={others.map((r) => [r.id, `${r.code}, ${r.label}`] as const)}
          />
          <button type="button" className="btn quiet" disabled={busy} onClick={() => void put()}>
            Put it beside
          </button>
        </>
      ) : null}
      {chosen.map((id) => (
        <button key={id} type="button" className="link text-[12px]" disabled={busy} onClick={() => void take(id)}>
          Take {nameOf(id)} away
        </button>
      ))}
    </div>
  );
}
