"use client";

import Link from "next/link";
import { lazy, Suspense } from "react";
import { drawRule } from "@/core/drawing/ruleDrawing";
import type { ErrorBudget } from "@/core/method/budget/errorBudget";
import { Drawing } from "../../charts/Drawing";
import { StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { VerdictView } from "../../view";
import { Findings } from "./Findings";
import { SourceTable } from "./SourceTable";

/** fetched beside the page: what may be claimed comes first */
const CredibilitySection = lazy(() => import("./CredibilitySection").then((m) => ({ default: m.CredibilitySection })));

/** The sources a rule shows, each with the stage it was found at. */
const sourcesText = ({ sources }: ErrorBudget): string =>
  sources
    .filter((x) => x.relative !== undefined)
    .map((x) => `${x.name} (${x.settled ? "settled by hand" : x.stage})`)
    .join(", ");

/** Which error dominates, what may be claimed, what is still in doubt. */
export function VerdictStage({ view }: { view: VerdictView }) {
  const rule = view.assessment.rules.find((r) => r.quantityKey === view.quantityKey);
  return (
    <>
      <StageHeader title="Verdict" question="Which error dominates, what may be claimed, what is still in doubt?">
        <Link className="btn quiet" href={`/quantities?case=${view.id}`}>
          All quantities on one scale
        </Link>
      </StageHeader>
      {rule ? (
        <>
          <Drawing svg={drawRule(rule, 780)} name={`rule of ${rule.quantityKey}`} of={sourcesText(rule)} />
          <SourceTable view={view} rule={rule} />
        </>
      ) : null}
      <h2 className="mt-5">Every quantity</h2>
      <DataTable
        rows={view.assessment.verdicts}
        rowKey={(v) => v.quantityKey}
        rowClass={(v) => (v.quantityKey === view.quantityKey ? "bg-margin" : "")}
        columns={columnsOf(view)}
      />
      <Suspense fallback={null}>
        <CredibilitySection key={view.quantityKey} view={view} />
      </Suspense>
      <Findings view={view} />
    </>
  );
}

type Verdict = VerdictView["assessment"]["verdicts"][number];

const columnsOf = (view: VerdictView): Column<Verdict>[] => [
  {
    header: <Unseen>Quantity</Unseen>,
    words: true,
    className: "w-40 align-top",
    cell: (v) => (
      <Link className="link" href={`/cases/${view.id}/verdict?q=${encodeURIComponent(v.quantityKey)}`}>
        {view.evidence.quantities.find((q) => q.key === v.quantityKey)?.name}
      </Link>
    ),
  },
  {
    header: <Unseen>Verdict</Unseen>,
    words: true,
    className: "w-36 align-top",
    cell: (v) => (
      <>
        <StateMark state={v.state} plain /> {v.word}
      </>
    ),
  },
  { header: <Unseen>Claim</Unseen>, words: true, className: "text-ink-2", cell: (v) => <Claim id={view.id} v={v} /> },
];

/** What may be claimed, and why, each reason leading to where it stands; what rests on reasons alone is said, and what comes next with what it would gain. */
function Claim({ id, v }: { id: string; v: Verdict }) {
  const to = (r: { go: string; sentence: string }) => (
    <Link className="link" href={`/cases/${id}/${r.go}?q=${encodeURIComponent(v.quantityKey)}`}>
      {r.sentence}
    </Link>
  );
  return (
    <>
      {v.claim.sentence}
      {v.reasons.length ? " Why: " : ""}
      {v.reasons.map((r, k) => (
        <span key={r.sentence}>
          {k ? "; " : ""}
          {to(r)}
        </span>
      ))}
      {v.reasons.length ? "." : ""}
      {v.claim.byArgument.length ? (
        <b className="block font-[600] text-ink">Rests on reasons instead of measurements: {v.claim.byArgument.join("; ")}.</b>
      ) : null}
      {v.next ? (
        <span className="block">
          Next: {to(v.next)}. {v.next.gain?.sentence}
        </span>
      ) : null}
    </>
  );
}
