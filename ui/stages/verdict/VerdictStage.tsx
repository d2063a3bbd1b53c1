"use client";

import Link from "next/link";
import { useState } from "react";
import { toast } from "sonner";
import { drawRule } from "@/core/drawing/ruleDrawing";
import { Drawing } from "../../charts/Drawing";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { Field } from "../../forms/Field";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import { useSave } from "../../forms/useSave";
import { StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import type { CaseView, FindingView } from "../../view";
import { SourceTable } from "./SourceTable";

/** Which error dominates, what may be claimed, what is still in doubt. */
export function VerdictStage({ view }: { view: CaseView }) {
  const rule = view.assessment.rules.find((r) => r.quantityKey === view.quantityKey);
  return (
    <>
      <StageHeader title="Verdict" question="Which error dominates, what may be claimed, what is still in doubt?" />
      {rule ? (
        <>
          <Drawing svg={drawRule(rule, 780)} name={`rule of ${rule.quantityKey}`} />
          <SourceTable view={view} rule={rule} />
        </>
      ) : null}
      <h2 className="mt-5">Every quantity</h2>
      <table className="mt-1">
        <tbody>
          {view.assessment.verdicts.map((v) => (
            <tr key={v.quantityKey} className={v.quantityKey === view.quantityKey ? "bg-margin" : ""}>
              <td className="w w-56 align-top">
                <Link className="link" href={`/cases/${view.id}/verdict?q=${encodeURIComponent(v.quantityKey)}`}>
                  {view.evidence.quantities.find((q) => q.key === v.quantityKey)?.name}
                </Link>
              </td>
              <td className="w w-40 align-top whitespace-nowrap">
                <StateMark state={v.state} plain /> {v.word}
              </td>
              <td className="w text-ink-2">
                {v.sentence}
                {v.reasons.length ? (
                  <>
                    {" Why: "}
                    {v.reasons.map((r, k) => (
                      <span key={r.sentence}>
                        {k ? "; " : ""}
                        <Link className="link" href={`/cases/${view.id}/${r.go}?q=${encodeURIComponent(v.quantityKey)}`}>
                          {r.sentence}
                        </Link>
                      </span>
                    ))}
                    .
                  </>
                ) : null}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Findings view={view} />
    </>
  );
}

const BLANK = { title: "", what: "", cause: "", change: "", shownBy: "", curedBy: "" };

function Findings({ view }: { view: CaseView }) {
  const [editing, setEditing] = useState<string>();
  const { save } = useSave();
  const label = (id: string | null) => view.runs.find((r) => r.id === id)?.label;
  const remove = async (f: FindingView) => {
    if (await save("DELETE /findings/{id}", { at: { id: f.id } }))
      toast(`${f.title} was deleted.`, {
        duration: 12_000,
        action: { label: "Undo", onClick: () => void save("POST /findings/{id}/restore", { at: { id: f.id } }) },
      });
  };
  return (
    <section className="mt-5" aria-label="Findings">
      <div className="flex items-center justify-between">
        <h2>Findings</h2>
        <button type="button" className="btn" onClick={() => setEditing(editing === "new" ? undefined : "new")}>
          Write a finding
        </button>
      </div>
      {editing === "new" ? <FindingForm view={view} finding={undefined} done={() => setEditing(undefined)} /> : null}
      {view.findings.length === 0 && editing !== "new" ? (
        <p className="mt-1 text-ink-2">None yet. A finding says what is off, what is suspected, what was changed, and which run shows it cured.</p>
      ) : null}
      {view.findings.map((f) =>
        editing === f.id ? (
          <FindingForm key={f.id} view={view} finding={f} done={() => setEditing(undefined)} />
        ) : (
          <article key={f.id} className="mt-2 border-t border-line pt-2">
            <div className="flex items-center justify-between">
              <h3 className="flex items-center gap-2">
                <StateMark state={f.curedBy ? "holds" : "fails"} plain /> {f.title}{" "}
                <span className="font-normal text-ink-3">{f.curedBy ? "cured" : "open"}</span>
              </h3>
              <span className="flex gap-3">
                <button type="button" className="link text-[12px]" onClick={() => setEditing(f.id)}>
                  Change
                </button>
                <ConfirmButton
                  className="link text-[12px] text-ink-3"
                  label={`Delete finding ${f.title}`}
                  question={`Delete ${f.title}?`}
                  text="You can undo this for a few seconds."
                  action="Delete finding"
                  onConfirm={() => void remove(f)}
                >
                  Delete
                </ConfirmButton>
              </span>
            </div>
            <p className="text-[12.5px] text-ink-2">
              {f.what} {f.cause ? `Suspected: ${f.cause}` : ""} {f.change ? `Changed: ${f.change}` : ""}
            </p>
            <p className="text-[12px] text-ink-3">
              {f.shownBy ? `Shown by ${label(f.shownBy) ?? "a deleted run"}. ` : "No run linked that shows it. "}
              {f.curedBy ? `Cured by ${label(f.curedBy) ?? "a deleted run"}.` : ""}
            </p>
          </article>
        ),
      )}
    </section>
  );
}

function FindingForm({ view, finding, done }: { view: CaseView; finding: FindingView | undefined; done: () => void }) {
  const { save, busy, mistakes } = useSave();
  const own = useFocusOnOpen<HTMLFormElement>();
  const [f, setF] = useState(finding ? { ...finding, shownBy: finding.shownBy ?? "", curedBy: finding.curedBy ?? "" } : BLANK);
  const runs = [["", "none"] as const, ...view.runs.map((r) => [r.id, `${r.label}, ${r.code}, ${r.createdAt.slice(0, 10)}`] as const)];
  return (
    <form
      ref={own}
      className="mt-2 grid grid-cols-2 gap-2 border border-line bg-margin p-3"
      onSubmit={async (e) => {
        e.preventDefault();
        const body = { title: f.title, what: f.what, cause: f.cause, change: f.change, shownBy: f.shownBy || null, curedBy: f.curedBy || null };
        const ok = finding
          ? await save("PUT /findings/{id}", { at: { id: finding.id }, input: body }, "The finding was saved.")
          : await save("POST /cases/{id}/findings", { at: { id: view.id }, input: body }, "The finding was written.");
        if (ok) done();
      }}
    >
      <Field label="Name" words value={f.title} onChange={(title) => setF({ ...f, title })} mistake={mistakes.title} />
      <Field label="What is off" words value={f.what} onChange={(what) => setF({ ...f, what })} mistake={mistakes.what} />
      <Field label="Suspected cause" words value={f.cause} onChange={(cause) => setF({ ...f, cause })} />
      <Field label="What was changed" words value={f.change} onChange={(change) => setF({ ...f, change })} />
      <Field label="Run that shows it" value={f.shownBy} onChange={(shownBy) => setF({ ...f, shownBy })} choices={runs} />
      <Field label="Run that cures it" value={f.curedBy} onChange={(curedBy) => setF({ ...f, curedBy })} choices={runs} />
      <div className="col-span-2 flex justify-end gap-2">
        <button type="button" className="btn quiet" onClick={done}>
          Leave it
        </button>
        <button type="submit" className="btn" disabled={busy}>
          Save finding
        </button>
      </div>
    </form>
  );
}
