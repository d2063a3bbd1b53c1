"use client";

import Link from "next/link";
import { lazy, Suspense, useState } from "react";
import { call } from "../../api/call";
import { useAsked } from "../../api/useAsked";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { Empty, StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { ReportStageView, ReportView } from "../../view";

const RestsOn = lazy(() => import("./RestsOn").then((m) => ({ default: m.RestsOn })));

/** Issues frozen, numbered reports and lists those issued. */
export function ReportStage({ view }: { view: ReportStageView }) {
  const { save, busy, mistakes } = useSave();
  const [issuedBy, setIssuedBy] = useState("");
  const next = (view.reports[0]?.number ?? 0) + 1;
  return (
    <>
      <StageHeader title="Report" question="Written down so that another person can check it and repeat it." />
      <form
        className="flex items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void save("POST /cases/{id}/reports", { at: { id: view.id }, input: { issuedBy } }, `Report ${next} was issued.`);
        }}
      >
        <div className="w-64">
          <Field label="Issued by, initials" words value={issuedBy} onChange={setIssuedBy} mistake={mistakes.issuedBy} />
        </div>
        <button type="submit" className="btn" disabled={busy || issuedBy.trim() === ""}>
          {busy ? "Issuing" : `Issue report ${next}`}
        </button>
      </form>
      {busy ? <UnderWay caseId={view.id} /> : null}
      <h2 className="mt-5">What it will say</h2>
      <DataTable className="mt-1 max-w-[820px]" rows={view.assessment.verdicts} rowKey={(v) => v.quantityKey} columns={verdictColumns(view)} />
      <Suspense fallback={null}>
        <RestsOn id={view.id} version={view.version} />
      </Suspense>
      <h2 className="mt-5">Issued reports</h2>
      {view.reports.length === 0 ? (
        <Empty>None yet. An issued report is frozen: a later one gets a new number and the old stays as it was.</Empty>
      ) : (
        <DataTable className="mt-1 max-w-[820px]" rows={view.reports} rowKey={(r) => String(r.number)} columns={issuedColumns(view.id)} />
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

const issuedColumns = (id: string): Column<ReportView>[] => [
  { header: "Number", cell: (r) => r.number },
  { header: "Issued", words: true, cell: (r) => `${r.issuedAt.slice(0, 16).replace("T", " ")} UTC` },
  { header: "By", words: true, cell: (r) => r.issuedBy },
  {
    header: "Read",
    words: true,
    className: "space-x-4",
    cell: (r) => (
      <>
        <Link className="link" href={`/cases/${id}/reports/${r.number}`}>
          Page {r.number}
        </Link>
        <a className="link" href={`/api/cases/${id}/reports/${r.number}/pdf`}>
          PDF
        </a>
        <a className="link" href={`/api/cases/${id}/reports/${r.number}/zip`}>
          Open files (zip)
        </a>
      </>
    ),
  },
];
