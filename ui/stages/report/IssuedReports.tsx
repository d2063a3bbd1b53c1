"use client";

import Link from "next/link";
import { useState } from "react";
import { SIGN_ROLES, type SignRole, supersededBy } from "@/core/records/signOff";
import { useAsked } from "../../api/useAsked";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import { DifferenceTable } from "../../tables/DifferenceTable";
import type { ReportView } from "../../view";

/** Issued reports with their files and signatures; signed, withdrawn and held against each other, never changed. */
export function IssuedReports({ id, reports }: { id: string; reports: readonly ReportView[] }) {
  const [signing, setSigning] = useState<number>();
  return (
    <>
      <DataTable
        className="mt-1"
        rows={reports}
        rowKey={(r) => String(r.number)}
        columns={columnsOf(id, reports, signing, setSigning)}
        detail={(r) => (signing === r.number ? <SignOrWithdraw id={id} r={r} done={() => setSigning(undefined)} /> : null)}
      />
      <p className="mt-2 text-[12.5px] text-ink-2">
        A pack holds everything its report was made from, and{" "}
        <Link className="link" href="/packs">
          makes it again
        </Link>{" "}
        on any machine. Its signature is made with{" "}
        <a className="link" href="/api/signing-key">
          the key of this data folder
        </a>
        .
      </p>
      {reports.length > 1 ? <Compared id={id} numbers={reports.map((r) => r.number).sort((a, b) => a - b)} /> : null}
    </>
  );
}

/** How a report stands: withdrawn, followed by a later one, or in force. */
function stands(r: ReportView, all: readonly ReportView[]): string {
  if (r.withdrawn) return `withdrawn by ${r.withdrawn.by}: ${r.withdrawn.reason}`;
  const later = supersededBy(r.number, all);
  return later ? `superseded by report ${later}` : "in force";
}

const columnsOf = (
  id: string,
  all: readonly ReportView[],
  signing: number | undefined,
  sign: (number: number | undefined) => void,
): Column<ReportView>[] => [
  { header: "Number", headClassName: "w-16", className: "align-top", cell: (r) => r.number },
  {
    header: "Issued, UTC",
    words: true,
    className: "align-top whitespace-nowrap",
    cell: (r) => `${r.issuedAt.slice(0, 16).replace("T", " ")}, ${r.issuedBy}`,
  },
  {
    header: "Signed",
    words: true,
    className: "align-top text-ink-2",
    cell: (r) => (
      <>
        {r.signOffs.map((s) => `${s.role} ${s.by} ${s.at.slice(0, 10)}`).join("; ") || "not signed"}{" "}
        {r.signOffs.length ? (
          <a className="link inline-block min-h-6" href={`/api/cases/${id}/reports/${r.number}/sign-off`}>
            sheet
          </a>
        ) : null}
      </>
    ),
  },
  { header: "Stands", words: true, className: "align-top text-ink-2", cell: (r) => stands(r, all) },
  {
    header: "Read",
    words: true,
    className: "align-top space-x-3 [&_a]:inline-block [&_a]:min-h-6 [&_a]:min-w-6",
    cell: (r) => (
      <>
        <Link className="link" href={`/cases/${id}/reports/${r.number}`}>
          Page {r.number}
        </Link>
        {(["pdf", "html", "docx", "json", "zip"] as const).map((kind) => (
          <a key={kind} className="link" href={`/api/cases/${id}/reports/${r.number}/${kind}`}>
            {FILES[kind]}
          </a>
        ))}
        <a className="link" href={`/api/cases/${id}/reports/${r.number}/pack-signature`}>
          its signature
        </a>
      </>
    ),
  },
  {
    header: <Unseen>Sign or withdraw</Unseen>,
    words: true,
    className: "align-top whitespace-nowrap",
    cell: (r) =>
      r.withdrawn ? null : (
        <button
          type="button"
          className="link"
          aria-expanded={signing === r.number}
          aria-label={`Sign or withdraw report ${r.number}`}
          onClick={() => sign(signing === r.number ? undefined : r.number)}
        >
          sign or withdraw
        </button>
      ),
  },
];

const FILES = { pdf: "PDF", html: "HTML", docx: "DOCX", zip: "Evidence pack", json: "JSON" } as const;

function SignOrWithdraw({ id, r, done }: { id: string; r: ReportView; done: () => void }) {
  const { save, busy, mistakes } = useSave();
  const next = SIGN_ROLES.find((role) => !r.signOffs.some((s) => s.role === role));
  const [role, setRole] = useState<SignRole | "withdraw">(next ?? "withdraw");
  const [by, setBy] = useState("");
  const [reason, setReason] = useState("");
  const at = { id, number: String(r.number) };
  const put = async () => {
    const ok =
      role === "withdraw"
        ? await save(
            "POST /cases/{id}/reports/{number}/withdraw",
            { at, input: { by, reason } },
            `Report ${r.number} is withdrawn; it stays as it was.`,
          )
        : await save("POST /cases/{id}/reports/{number}/signatures", { at, input: { role, by } }, `Report ${r.number} is ${role} by ${by}.`);
    if (ok) done();
  };
  return (
    <form
      className="grid max-w-[820px] grid-cols-[1fr_1fr_1.6fr_auto] items-end gap-2 p-2"
      onSubmit={(e) => {
        e.preventDefault();
        void put();
      }}
    >
      <Field
        label={`Report ${r.number} is`}
        value={role}
        onChange={setRole}
        choices={[...SIGN_ROLES.map((s) => [s, s] as const), ["withdraw", "withdrawn"] as const]}
      />
      <Field label="Signed, initials" value={by} onChange={setBy} words mistake={mistakes.by} />
      {role === "withdraw" ? <Field label="Because" value={reason} onChange={setReason} words mistake={mistakes.reason} /> : <span />}
      <button type="submit" className="btn" disabled={busy}>
        {role === "withdraw" ? "Withdraw it" : "Sign it"}
      </button>
    </form>
  );
}

/** Two issued reports line by line. */
function Compared({ id, numbers }: { id: string; numbers: readonly number[] }) {
  const [left, setLeft] = useState(String(numbers[numbers.length - 2]));
  const [right, setRight] = useState(String(numbers[numbers.length - 1]));
  const [asked, setAsked] = useState(false);
  const ready = asked && left !== right;
  const { data, error } = useAsked(
    "GET /cases/{id}/reports/{number}/against/{later}",
    ready ? { at: { id, number: left, later: right } } : undefined,
  );
  const choices = numbers.map((n) => [String(n), `report ${n}`] as const);
  return (
    <section className="mt-6" aria-label="Two reports line by line">
      <h2>Two reports line by line</h2>
      <div className="mt-1 flex items-end gap-3">
        <Field label="What stood in" value={left} onChange={setLeft} choices={choices} />
        <Field label="Against" value={right} onChange={setRight} choices={choices} />
        <button type="button" className="btn" disabled={left === right} onClick={() => setAsked(true)}>
          Compare them
        </button>
        {ready && data?.length ? (
          <CsvButton
            name={`reports-${left}-and-${right}`}
            header={["where", `report ${left}`, `report ${right}`]}
            rows={data.map((d) => [d.where, d.left ?? "", d.right ?? ""])}
          />
        ) : null}
      </div>
      {error ? <p className="mistake">{error.message}</p> : null}
      {ready && data ? (
        data.length ? (
          <DifferenceTable rows={data} left={`Report ${left}`} right={`Report ${right}`} />
        ) : (
          <p className="mt-2 text-ink-2">They say the same.</p>
        )
      ) : null}
    </section>
  );
}
