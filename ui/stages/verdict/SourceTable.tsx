"use client";

import Link from "next/link";
import { useState } from "react";
import { percent, sentenceCase } from "@/core/formatting/number";
import type { ErrorSource, QuantityRule } from "@/core/method/budget/rule";
import { SETTLEMENT_WORDS } from "@/core/method/budget/settlement";
import { SETTLEMENT_KINDS, type SettlementKind } from "@/core/records/settlement";
import type { Input } from "../../api/call";
import { Field } from "../../forms/Field";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import { useSave } from "../../forms/useSave";
import type { CaseView } from "../../view";

const age = (at: string | undefined) => (at ? at.slice(0, 16).replace("T", " ") : "");

function sizeText(s: ErrorSource): string {
  if (s.settled?.kind === "not-applicable") return "does not apply";
  if (s.relative == null) return "open";
  if (s.settled) return `${s.settled.kind === "bounded" ? "≤ " : "≈ "}${percent(s.relative)}`;
  return percent(s.relative);
}

/** Every error source of a quantity, largest first; what nothing measured can be settled where it is shown missing. */
export function SourceTable({ view, rule }: { view: CaseView; rule: QuantityRule }) {
  const [open, setOpen] = useState<string>();
  const { save } = useSave();
  const verdict = view.assessment.verdicts.find((v) => v.quantityKey === rule.quantityKey);
  const sources = [...rule.sources].sort((a, b) => (b.relative ?? 1e9) - (a.relative ?? 1e9));
  const takeBack = (s: ErrorSource) =>
    save(
      "DELETE /cases/{id}/settlements/{source}/{quantity}",
      { at: { id: view.id, source: s.key, quantity: rule.quantityKey } },
      "It was taken back; the source is open again.",
    );
  return (
    <table className="mt-3">
      <thead>
        <tr>
          <th>Source</th>
          <th>At 95 %</th>
          <th className="w">How it was found, or what would settle it</th>
          <th className="w">Evidence</th>
          <th className="w">Made, UTC</th>
        </tr>
      </thead>
      <tbody>
        {sources.map((s) => {
          const way = verdict?.settles.find((x) => x.source === s.key);
          const missing = s.relative == null;
          return (
            <tr key={s.key} data-testid={`source-${s.key}`} className={missing ? "bg-margin" : ""}>
              <td className="w align-top font-[560]">{s.name}</td>
              <td className="align-top whitespace-nowrap">{sizeText(s)}</td>
              <td className="w text-ink-2">
                {sentenceCase(s.note).replace(/\.$/, "")}.
                {missing && way ? <b className="font-[600] text-ink"> To settle it, {way.sentence}.</b> : null}
                {missing ? (
                  <span className="ml-2 whitespace-nowrap">
                    <button type="button" className="link" aria-expanded={open === s.key} onClick={() => setOpen(open === s.key ? undefined : s.key)}>
                      Settle {s.name}
                    </button>
                  </span>
                ) : s.settled ? (
                  <button type="button" className="link ml-2" onClick={() => void takeBack(s)}>
                    take back
                  </button>
                ) : null}
                {open === s.key && missing ? (
                  <SettleForm view={view} source={s} quantityKey={rule.quantityKey} done={() => setOpen(undefined)} />
                ) : null}
                {s.key === "round-off" ? <Precision view={view} /> : null}
              </td>
              <td className="w align-top">
                <Link className="link" href={`/cases/${view.id}/${way?.go ?? s.stage}?q=${encodeURIComponent(rule.quantityKey)}`}>
                  {way?.go ?? s.stage}
                </Link>
              </td>
              <td className="w align-top text-[11.5px]! whitespace-nowrap text-ink-3">
                {s.relative != null ? age(s.at) : ""}
                {view.assessment.stale && s.at ? ", earlier set-up" : ""}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** What a person says of a source nothing measured: signed and dated. */
function SettleForm({ view, source, quantityKey, done }: { view: CaseView; source: ErrorSource; quantityKey: string; done: () => void }) {
  const { save, busy, mistakes } = useSave();
  const [f, setF] = useState({ kind: "bounded" as SettlementKind, value: "", reason: "", by: "", all: true });
  const first = useFocusOnOpen<HTMLDivElement>();
  const submit = async () => {
    const body = {
      source: source.key as Input<"POST /cases/{id}/settlements">["source"],
      quantityKey: f.all ? null : quantityKey,
      kind: f.kind,
      value: f.value,
      reason: f.reason,
      by: f.by,
    };
    if (await save("POST /cases/{id}/settlements", { at: { id: view.id }, input: body }, `${sentenceCase(source.name)} was settled by hand.`)) done();
  };
  return (
    <div ref={first} className="mt-2 grid max-w-[640px] grid-cols-[1.2fr_0.8fr_0.8fr] gap-2 border border-line bg-sheet p-2">
      <Field
        label={`How ${source.name} is settled`}
        value={f.kind}
        onChange={(kind) => setF({ ...f, kind: kind as SettlementKind })}
        choices={SETTLEMENT_KINDS.map((k) => [k, SETTLEMENT_WORDS[k]] as const)}
      />
      {f.kind === "not-applicable" ? (
        <span />
      ) : (
        <Field
          label={f.kind === "bounded" ? "At most, 95 %" : "About, 95 %"}
          value={f.value}
          placeholder="0.2 %"
          onChange={(value) => setF({ ...f, value })}
          mistake={mistakes.value}
        />
      )}
      <Field label="Signed, initials" words value={f.by} onChange={(by) => setF({ ...f, by })} mistake={mistakes.by} />
      <div className="col-span-3">
        <Field label="Because" words value={f.reason} onChange={(reason) => setF({ ...f, reason })} mistake={mistakes.reason} />
      </div>
      <label className="col-span-2 flex items-center gap-2">
        <input type="checkbox" checked={f.all} onChange={(e) => setF({ ...f, all: e.target.checked })} /> of every quantity of the case
      </label>
      <span className="flex justify-end gap-2">
        <button type="button" className="btn quiet" onClick={done}>
          Leave it
        </button>
        <button type="button" className="btn" disabled={busy} onClick={() => void submit()}>
          Settle it
        </button>
      </span>
    </div>
  );
}

/** The precision of the finest run's code: asked once, kept for every case. */
function Precision({ view }: { view: CaseView }) {
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
