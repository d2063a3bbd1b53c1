"use client";

import Link from "next/link";
import { useSearchParams } from "next/navigation";
import { lazy, Suspense, useState } from "react";
import { STAGES } from "@/core/assessment/results/stage";
import { findCause } from "@/core/assessment/verdict/causes";
import { sentenceCase } from "@/core/formatting/number";
import { ageText } from "../../findings/age";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { useRemoval } from "../../forms/useRemoval";
import { useSave } from "../../forms/useSave";
import { StateMark } from "../../shell/StateMark";
import type { FindingView, VerdictView } from "../../view";

// What opens at a press is fetched at the press, and a picture with what it is of.
const FindingForm = lazy(() => import("./FindingForm").then((m) => ({ default: m.FindingForm })));
const BeforeAfter = lazy(() => import("./BeforeAfter").then((m) => ({ default: m.BeforeAfter })));
const RuleForm = lazy(() => import("../../findings/RuleForm").then((m) => ({ default: m.RuleForm })));

const NEW = "new";

/** What was found to be off, from symptom to cure; open ones count on the board. */
export function Findings({ view }: { view: VerdictView }) {
  const begun = useBegun(view);
  const [editing, setEditing] = useState<string | undefined>(begun ? NEW : undefined);
  const close = () => setEditing(undefined);
  return (
    <section className="mt-5" aria-label="Findings">
      <div className="flex items-center justify-between">
        <h2>Findings</h2>
        <button type="button" className="btn" onClick={() => setEditing(editing === NEW ? undefined : NEW)}>
          Write a finding
        </button>
      </div>
      {editing === NEW ? (
        <Suspense fallback={null}>
          <FindingForm view={view} finding={undefined} begun={begun} done={close} />
        </Suspense>
      ) : null}
      {view.findings.length === 0 && editing !== NEW ? (
        <p className="mt-1 text-ink-2">None yet. A finding says what is off, what is suspected, what was changed, and which run shows it cured.</p>
      ) : null}
      {view.findings.map((f) =>
        editing === f.id ? (
          <Suspense key={f.id} fallback={null}>
            <FindingForm view={view} finding={f} done={close} />
          </Suspense>
        ) : (
          <Finding key={f.id} view={view} f={f} change={() => setEditing(f.id)} />
        ),
      )}
    </section>
  );
}

/** What a stage said when "This is off" was pressed there. */
function useBegun(view: VerdictView) {
  const asked = useSearchParams();
  const stage = STAGES.find((s) => s === asked.get("off"));
  if (!stage) return undefined;
  const name = view.evidence.quantities.find((q) => q.key === view.quantityKey)?.name ?? "";
  return { stage, quantityKey: view.quantityKey, title: `${sentenceCase(stage)}: ${name}`, what: (asked.get("what") ?? "").slice(0, 400) };
}

/** "Suspected: the mesh. It was coarse at the step." */
function suspected(f: FindingView): string {
  const known = findCause(f.causeKey)?.name;
  if (!known && !f.cause) return "";
  return `Suspected: ${[known && `${known}.`, f.cause].filter(Boolean).join(" ")}`;
}

function Finding({ view, f, change }: { view: VerdictView; f: FindingView; change: () => void }) {
  const remove = useRemoval(useSave().save);
  const [ruling, setRuling] = useState(false);
  const label = (id: string) => view.runs.find((r) => r.id === id)?.label ?? "a deleted run";
  const at = { id: f.id };
  return (
    <article className="mt-2 border-t border-line pt-2">
      <div className="flex items-center justify-between">
        <h3 className="flex items-center gap-2">
          <StateMark state={f.curedBy ? "holds" : "fails"} plain /> {f.title}{" "}
          <span className="font-normal text-ink-3">
            <span>{f.curedBy ? "cured" : "open"}</span>
            {`, ${f.severity}${f.owner ? `, ${f.owner}` : ""}, ${ageText(f.createdAt, f.curedAt).replace(/^\w+ /, "")}`}
          </span>
        </h3>
        <span className="flex gap-3">
          <button type="button" className="link text-[12px]" aria-expanded={ruling} onClick={() => setRuling(!ruling)}>
            Make a rule of it
          </button>
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
        {f.what} {suspected(f)} {f.test ? `Tested: ${f.test}` : ""} {f.change ? `Changed: ${f.change}` : ""}
      </p>
      <p className="text-[12px] text-ink-3">
        {f.shownBy ? `Shown by ${label(f.shownBy)}. ` : "No run linked that shows it. "}
        {f.curedBy ? `Cured by ${label(f.curedBy)}.` : ""}
        {f.stage ? ` Seen at ${f.stage}.` : ""}{" "}
        {f.space ? (
          <Link className="link" href={`/look?run=${f.shownBy}&run=${f.curedBy}`}>
            Look at both in space
          </Link>
        ) : null}
      </p>
      {ruling ? (
        <Suspense fallback={null}>
          <RuleForm caseId={view.id} finding={f} done={() => setRuling(false)} />
        </Suspense>
      ) : null}
      {f.before === null || f.after === null ? null : (
        <Suspense fallback={null}>
          <BeforeAfter view={view} f={f} labels={[f.shownBy && label(f.shownBy), f.curedBy && label(f.curedBy)]} />
        </Suspense>
      )}
    </article>
  );
}
