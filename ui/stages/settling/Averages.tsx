"use client";

import type { RunSettling } from "@/core/assessment/results/settling";
import { percent, quantityText, sentenceCase, significant, unitText, withUncertainty } from "@/core/formatting/number";
import { TAKE_WORDS, TAKES } from "@/core/records/take";
import { useAsked } from "../../api/useAsked";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { StateMark } from "../../shell/StateMark";
import { type Column, DataTable } from "../../tables/DataTable";
import type { SettlingView } from "../../view";
import { AveragePictures, type Pictures } from "./AveragePictures";

type Average = RunSettling["averages"][number];

interface AveragesProps {
  readonly view: SettlingView;
  readonly settling: RunSettling;
  /** changes when the record is read another way */
  readonly version: string;
  readonly onAdopt: (adopt: boolean) => void;
  readonly busy: boolean;
}

/** Averages of a run's records, and everything drawn of the one that is chosen. */
export function Averages({ view, settling, version, onAdopt, busy }: AveragesProps) {
  const { averages, runId } = settling;
  const chosen = averages.find((a) => a.key === view.quantityKey) ?? averages[0];
  const { data } = useAsked("GET /runs/{id}/records/{key}", chosen && { at: { id: runId, key: chosen.key } }, version);
  if (!chosen) return null;
  const adopted = averages.some((a) => a.adopted);
  const quantity = (key: string) => view.evidence.quantities.find((q) => q.key === key);
  const nameOf = (key: string) => quantity(key)?.name ?? "";
  return (
    <section className="mt-5" aria-label="Averages">
      <div className="flex items-baseline justify-between">
        <h2>Averages over {chosen.abscissa === "s" ? "time" : "the last iterations"}</h2>
        <button type="button" className="btn quiet small" disabled={busy} onClick={() => onAdopt(!adopted)}>
          {adopted ? "Take last values instead" : "Take the means for this run's values"}
        </button>
      </div>
      <Take view={view} chosen={chosen} name={nameOf(chosen.key)} />
      <DataTable
        className="tight mt-1"
        rows={averages}
        rowKey={(a) => a.key}
        rowClass={(a) => (a.key === chosen.key ? "bg-margin" : "")}
        columns={columnsOf(nameOf)}
      />
      {chosen.doubts.map((d) => (
        <p key={d.rule} className="mt-1 flex gap-2 text-[12.5px]">
          <StateMark state="remark" /> {d.sentence}
        </p>
      ))}
      {data ? (
        <AveragePictures found={data as Pictures} q={quantity(chosen.key)} over={chosen.abscissa} view={view} />
      ) : (
        <div className="h-[420px]" />
      )}
    </section>
  );
}

/** What stands for the record of a quantity, in every run. */
function Take({ view, chosen, name }: { view: SettlingView; chosen: Average; name: string }) {
  const { save } = useSave();
  const at = { id: view.id, key: chosen.key };
  const unit = view.evidence.quantities.find((q) => q.key === chosen.key)?.unit ?? "1";
  return (
    <div className="mt-1 flex items-end gap-3">
      <div className="w-[290px]">
        <Field
          label={`Value of ${name}, in every run`}
          value={view.setup.takes?.[chosen.key] ?? "last"}
          onChange={(take) =>
            void save("PUT /cases/{id}/quantities/{key}/take", { at, input: { take } }, "The value is taken that way in every run.")
          }
          choices={TAKES.map((t) => [t, t === "last" ? "as each run says: last value or mean" : TAKE_WORDS[t]] as const)}
        />
      </div>
      {chosen.taken && chosen.take !== "mean" ? (
        <p className="text-[12.5px] text-ink-2">
          {sentenceCase(TAKE_WORDS[chosen.take])} {withUncertainty(chosen.taken.value, chosen.taken.expanded)} ±{" "}
          {significant(chosen.taken.expanded, 2)} {unitText(unit)} (95 %)
        </p>
      ) : null}
    </div>
  );
}

const columnsOf = (nameOf: (key: string) => string): Column<Average>[] => [
  { header: "Quantity", words: true, cell: (a) => nameOf(a.key) },
  { header: "Mean", cell: (a) => withUncertainty(a.mean, a.expanded) },
  { header: "± 95 %", cell: (a) => significant(a.expanded, 2) },
  {
    header: "Start-up cut",
    title: (a) => `by ${a.cutBy}`,
    cell: (a) => `${quantityText(a.cutAt, a.abscissa, 3)}${a.cutBy === "hand" ? " *" : ""}`,
  },
  { header: "Correlation time", cell: (a) => quantityText(a.correlationTime, a.abscissa, 2) },
  { header: "Independent samples", cell: (a) => significant(a.effectiveSamples, 2) },
  { header: "Halves apart", cell: (a) => percent(Math.abs(a.halves[1] - a.halves[0]) / (Math.abs(a.mean) || 1)) },
  { header: "Dominant frequency", cell: (a) => (a.peak && a.abscissa === "s" ? quantityText(a.peak.frequency, "Hz", 4) : "–") },
  {
    header: "Doubts",
    words: true,
    cell: (a) => (
      <span className="inline-flex items-center gap-1.5">
        <StateMark state={a.doubts.some((d) => d.severity === "doubt") ? "remark" : "holds"} plain /> {a.doubts.length || "none"}
      </span>
    ),
  },
];
