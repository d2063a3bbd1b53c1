"use client";

import { useState } from "react";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { useRemoval } from "../../forms/useRemoval";
import { useSave } from "../../forms/useSave";
import { StateMark } from "../../shell/StateMark";
import type { FindingView, VerdictView } from "../../view";
import { FindingForm } from "./FindingForm";

const NEW = "new";

/** What was found to be off, from symptom to cure; open ones count on the board. */
export function Findings({ view }: { view: VerdictView }) {
  const [editing, setEditing] = useState<string>();
  const close = () => setEditing(undefined);
  return (
    <section className="mt-5" aria-label="Findings">
      <div className="flex items-center justify-between">
        <h2>Findings</h2>
        <button type="button" className="btn" onClick={() => setEditing(editing === NEW ? undefined : NEW)}>
          Write a finding
        </button>
      </div>
      {editing === NEW ? <FindingForm view={view} finding={undefined} done={close} /> : null}
      {view.findings.length === 0 && editing !== NEW ? (
        <p className="mt-1 text-ink-2">None yet. A finding says what is off, what is suspected, what was changed, and which run shows it cured.</p>
      ) : null}
      {view.findings.map((f) =>
        editing === f.id ? (
          <FindingForm key={f.id} view={view} finding={f} done={close} />
        ) : (
          <Finding key={f.id} view={view} f={f} change={() => setEditing(f.id)} />
        ),
      )}
    </section>
  );
}

function Finding({ view, f, change }: { view: VerdictView; f: FindingView; change: () => void }) {
  const remove = useRemoval(useSave().save);
  const label = (id: string) => view.runs.find((r) => r.id === id)?.label ?? "a deleted run";
  const at = { id: f.id };
  return (
    <article className="mt-2 border-t border-line pt-2">
      <div className="flex items-center justify-between">
        <h3 className="flex items-center gap-2">
          <StateMark state={f.curedBy ? "holds" : "fails"} plain /> {f.title}{" "}
          <span className="font-normal text-ink-3">{f.curedBy ? "cured" : "open"}</span>
        </h3>
        <span className="flex gap-3">
          <button type="button" className="link text-[12px]" onClick={change}>
            Change
          </button>
          <ConfirmButton
            className="link text-[12px] text-ink-3"
            label={`Delete finding ${f.title}`}
            question={`Delete ${f.title}?`}
            text="You can undo this for a few seconds."
            action="Delete finding"
            onConfirm={() => void remove(`${f.title} was deleted.`, ["DELETE /findings/{id}", { at }], ["POST /findings/{id}/restore", { at }])}
          >
            Delete
          </ConfirmButton>
        </span>
      </div>
      <p className="text-[12.5px] text-ink-2">
        {f.what} {f.cause ? `Suspected: ${f.cause}` : ""} {f.change ? `Changed: ${f.change}` : ""}
      </p>
      <p className="text-[12px] text-ink-3">
        {f.shownBy ? `Shown by ${label(f.shownBy)}. ` : "No run linked that shows it. "}
        {f.curedBy ? `Cured by ${label(f.curedBy)}.` : ""}
      </p>
    </article>
  );
}
