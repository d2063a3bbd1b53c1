"use client";

import { lazy, Suspense } from "react";
import { call } from "../../api/call";
import { useAsked } from "../../api/useAsked";
import { Empty, StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { ReportStageView } from "../../view";
import { IssuedReports } from "./IssuedReports";
import { IssueReport } from "./IssueReport";

const RestsOn = lazy(() => import("./RestsOn").then((m) => ({ default: m.RestsOn })));

/** Issues frozen, numbered reports and lists those issued. */
export function ReportStage({ view }: { view: ReportStageView }) {
  const next = (view.reports[0]?.number ?? 0) + 1;
  return (
    <>
      <StageHeader title="Report" question="Written down so that another person can check it and repeat it." />
      <IssueReport id={view.id} next={next} underWay={<UnderWay caseId={view.id} />} />
      <h2 className="mt-5">What it will say</h2>
      <DataTable className="mt-1 max-w-[820px]" rows={view.assessment.verdicts} rowKey={(v) => v.quantityKey} columns={verdictColumns(view)} />
      <Suspense fallback={null}>
        <RestsOn id={view.id} version={view.version} />
      </Suspense>
      <h2 className="mt-5">Issued reports</h2>
      {view.reports.length === 0 ? (
        <Empty>None yet. An issued report is frozen: a later one gets a new number and the old stays as it was.</Empty>
      ) : (
        <IssuedReports id={view.id} reports={view.reports} />
      )}
    </>
  );
}

/** How far the report is, and a way to give it up. */
function UnderWay({ caseId }: { caseId: string }) {
  const { data } = useAsked("GET /cases/{id}/report-under-way", { at: { id: caseId } }, "", 400);
  const { done, of, what } = data?.told ?? { done: 0, of: 1, what: "Reading the evidence" };
  return (
    <div className="mt-2 flex items-center gap-3 text-[12.5px]" aria-live="polite">
      <progress className="w-52" value={done} max={of} aria-label="Issuing the report" />
      <span>{what}</span>
      <button
        type="button"
        className="btn quiet small"
        onClick={() => void call("DELETE /cases/{id}/report-under-way", { at: { id: caseId } }).catch(() => undefined)}
      >
        Stop
      </button>
    </div>
  );
}

const verdictColumns = ({ evidence }: ReportStageView): Column<ReportStageView["assessment"]["verdicts"][number]>[] => [
  { header: <Unseen>Quantity</Unseen>, words: true, className: "w-60", cell: (v) => evidence.quantities.find((q) => q.key === v.quantityKey)?.name },
  {
    header: <Unseen>Verdict</Unseen>,
    words: true,
    className: "whitespace-nowrap",
    cell: (v) => (
      <>
        <StateMark state={v.state} plain /> {v.word}
      </>
    ),
  },
  { header: <Unseen>Reasons</Unseen>, words: true, className: "text-ink-2", cell: (v) => v.reasons.map((r) => r.sentence).join("; ") },
];
