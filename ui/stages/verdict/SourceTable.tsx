"use client";

import dynamic from "next/dynamic";
import Link from "next/link";
import { useState } from "react";
import { sentenceCase } from "@/core/formatting/number";
import type { ErrorBudget, ErrorSource } from "@/core/method/budget/errorBudget";
import type { Input } from "../../api/call";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { type Column, DataTable } from "../../tables/DataTable";
import { sourceSize } from "../../tables/sourceSize";
import type { VerdictView } from "../../view";

const SettleForm = dynamic(() => import("./SettleForm").then((m) => m.SettleForm));

const age = (at: string | undefined) => (at ? at.slice(0, 16).replace("T", " ") : "");

interface SourceProps {
  readonly view: VerdictView;
  readonly rule: ErrorBudget;
}

/** Every error source of a quantity, largest first; what nothing measured can be settled where it is shown missing. */
export function SourceTable({ view, rule }: SourceProps) {
  const verdict = view.assessment.verdicts.find((v) => v.quantityKey === rule.quantityKey);
  const wayOf = (s: ErrorSource) => verdict?.settles.find((x) => x.source === s.key);
  const goOf = (s: ErrorSource) => wayOf(s)?.go ?? s.stage;
  const columns: Column<ErrorSource>[] = [
    { header: "Source", words: true, headClassName: "text-left", className: "align-top font-[560]", cell: (s) => s.name },
    { header: "At 95 %", className: "align-top whitespace-nowrap", cell: (s) => sourceSize(s) },
    {
      header: "How it was found, or what would settle it",
      words: true,
      className: "text-ink-2",
      cell: (s) => <Found view={view} rule={rule} s={s} way={wayOf(s)?.sentence} />,
    },
    {
      header: "Evidence",
      words: true,
      className: "align-top",
      cell: (s) => (
        <Link className="link" href={`/cases/${view.id}/${goOf(s)}?q=${encodeURIComponent(rule.quantityKey)}`}>
          {goOf(s)}
        </Link>
      ),
    },
    {
      header: "Made, UTC",
      words: true,
      className: "align-top text-[11.5px]! whitespace-nowrap text-ink-3",
      cell: (s) => `${s.relative != null ? age(s.at) : ""}${view.assessment.stale && s.at ? ", earlier set-up" : ""}`,
    },
  ];
  return (
    <DataTable
      className="mt-3"
      rows={[...rule.sources].sort((a, b) => (b.relative ?? 1e9) - (a.relative ?? 1e9))}
      rowKey={(s) => s.key}
      rowClass={(s) => (s.relative == null ? "bg-margin" : "")}
      rowTestId={(s) => `source-${s.key}`}
      columns={columns}
    />
  );
}

/** How a source was found; where nothing measured it, what would, and a way to settle it by hand. */
function Found({ view, rule, s, way }: SourceProps & { s: ErrorSource; way: string | undefined }) {
  const [open, setOpen] = useState(false);
  const missing = s.relative == null;
  return (
    <>
      {sentenceCase(s.note).replace(/\.$/, "")}.
      {s.settled?.link && /^https?:/.test(s.settled.link) ? (
        <a className="link ml-1" href={s.settled.link} rel="noreferrer" target="_blank">
          open it
        </a>
      ) : null}
      {missing && way ? <b className="font-[600] text-ink"> To settle it, {way}.</b> : null}
      {missing ? (
        <span className="ml-2 whitespace-nowrap">
          <button type="button" className="link" aria-expanded={open} onClick={() => setOpen(!open)}>
            Settle {s.name}
          </button>
        </span>
      ) : s.settled ? (
        <TakeBack id={view.id} source={s.key} quantityKey={rule.quantityKey} />
      ) : null}
      {open && missing ? <SettleForm view={view} source={s} quantityKey={rule.quantityKey} done={() => setOpen(false)} /> : null}
      {s.key === "round-off" ? <Precision view={view} /> : null}
    </>
  );
}

function TakeBack({ id, source, quantityKey }: { id: string; source: string; quantityKey: string }) {
  const { save } = useSave();
  const at = { id, source, quantity: quantityKey };
  return (
    <button
      type="button"
      className="link ml-2"
      onClick={() => void save("DELETE /cases/{id}/settlements/{source}/{quantity}", { at }, "It was taken back; the source is open again.")}
    >
      take back
    </button>
  );
}

/** The precision of the finest run's code: asked once, kept for every case. */
function Precision({ view }: { view: VerdictView }) {
  const { save, busy } = useSave();
  const finest = view.runs.find((r) => r.id === view.assessment.ladder[0]);
  if (!finest || finest.origin === "bench") return null;
  return (
    <div className="mt-1 w-64">
      <Field
        label={`Precision of ${finest.code}`}
        value={(view.evidence.precision?.[finest.code] ?? "unknown") as Input<"PUT /settings/precision">["precision"]}
        onChange={(precision) =>
          busy
            ? undefined
            : void save("PUT /settings/precision", { input: { code: finest.code, precision } }, `Kept for every case computed with ${finest.code}.`)
        }
        choices={[
          ["unknown", "not stated"],
          ["double", "double"],
          ["single", "single"],
        ]}
      />
    </div>
  );
}
