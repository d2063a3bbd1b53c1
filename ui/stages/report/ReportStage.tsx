"use client";

import Link from "next/link";
import { useState } from "react";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { Empty, StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import type { CaseView } from "../../view";

/** Issues frozen, numbered reports and lists those issued. */
export function ReportStage({ view }: { view: CaseView }) {
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
      <h2 className="mt-5">What it will say</h2>
      <table className="mt-1 max-w-[820px]">
        <tbody>
          {view.assessment.verdicts.map((v) => (
            <tr key={v.quantityKey}>
              <td className="w w-60">{view.evidence.quantities.find((q) => q.key === v.quantityKey)?.name}</td>
              <td className="w whitespace-nowrap">
                <StateMark state={v.state} plain /> {v.word}
              </td>
              <td className="w text-ink-2">{v.reasons.map((r) => r.sentence).join("; ")}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2 className="mt-5">Issued reports</h2>
      {view.reports.length === 0 ? (
        <Empty>None yet. An issued report is frozen: a later one gets a new number and the old stays as it was.</Empty>
      ) : (
        <table className="mt-1 max-w-[820px]">
          <thead>
            <tr>
              <th>Number</th>
              <th className="w">Issued</th>
              <th className="w">By</th>
              <th className="w">Read</th>
            </tr>
          </thead>
          <tbody>
            {view.reports.map((r) => (
              <tr key={r.number}>
                <td>{r.number}</td>
                <td className="w">{r.issuedAt.slice(0, 16).replace("T", " ")} UTC</td>
                <td className="w">{r.issuedBy}</td>
                <td className="w space-x-4">
                  <Link className="link" href={`/cases/${view.id}/reports/${r.number}`}>
                    Page {r.number}
                  </Link>
                  <a className="link" href={`/api/cases/${view.id}/reports/${r.number}/pdf`}>
                    PDF
                  </a>
                  <a className="link" href={`/api/cases/${view.id}/reports/${r.number}/zip`}>
                    Open files (zip)
                  </a>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
