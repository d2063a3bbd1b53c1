"use client";

import Link from "next/link";
import { useState } from "react";
import { sentenceCase } from "@/core/formatting/number";
import { FINDING_SEVERITIES } from "@/core/records/finding";
import { Field } from "../forms/Field";
import { StateMark } from "../shell/StateMark";
import { CsvButton } from "../tables/CsvButton";
import { type Column, DataTable } from "../tables/DataTable";
import { ageText } from "./age";
import { ANY_FINDING, type CauseCount, type FindingLine, recurringCauses, siftedFindings } from "./findingList";

/** What is off in any case, from symptom over suspected cause and test to cure; and which causes come back. */
export function FindingsBoard({ list }: { list: readonly FindingLine[] }) {
  const [sieve, setSieve] = useState(ANY_FINDING);
  const set = (change: Partial<typeof sieve>) => setSieve({ ...sieve, ...change });
  const shown = siftedFindings(list, sieve);
  const causes = recurringCauses(list);
  const owners = [...new Set(list.map((f) => f.owner).filter(Boolean))].sort();
  return (
    <main id="main" tabIndex={-1} className="flex-1 bg-sheet px-6 py-4">
      <div className="flex items-end justify-between gap-4">
        <div>
          <h1>Findings</h1>
          <p className="mt-0.5 text-[12.5px] text-ink-3">
            What is off, what is suspected, how it was tested, what was changed, which run shows it cured.
          </p>
        </div>
        {list.length ? <CsvButton name="findings" header={HEADER} rows={shown.map(rowOf)} /> : null}
      </div>
      {list.length === 0 ? (
        <p className="mt-4 text-ink-2">None yet. Findings are begun at any stage of a case with “This is off”, or written on its Verdict page.</p>
      ) : (
        <>
          <div className="no-print mt-3 grid max-w-[1000px] grid-cols-5 gap-2">
            <Field
              label="State"
              value={sieve.state}
              onChange={(state) => set({ state })}
              choices={[
                ["open", "open"],
                ["cured", "cured"],
                ["all", "open and cured"],
              ]}
            />
            <Field
              label="Severity"
              value={sieve.severity}
              onChange={(severity) => set({ severity })}
              choices={[["", "any"], ...FINDING_SEVERITIES.map((s) => [s, s] as const)]}
            />
            <Field
              label="Who sees to it"
              value={sieve.owner}
              onChange={(owner) => set({ owner })}
              choices={[["", "anybody"], ...owners.map((o) => [o, o] as const)]}
            />
            <Field
              label="Suspected cause"
              value={sieve.cause}
              onChange={(cause) => set({ cause })}
              choices={[["", "any"], ...causes.map((c) => [c.cause, c.cause] as const)]}
            />
            <Field label="Words" value={sieve.search} onChange={(search) => set({ search })} words placeholder="of finding or case" />
          </div>
          {shown.length ? (
            <DataTable className="mt-3" rows={shown} rowKey={(f) => f.id} rowTestId={() => "finding"} columns={COLUMNS} />
          ) : (
            <p className="mt-4 text-ink-2">
              No finding is like that.{" "}
              <button type="button" className="link" onClick={() => setSieve({ ...ANY_FINDING, state: "all" })}>
                Show all
              </button>
            </p>
          )}
          {causes.length ? (
            <section className="mt-6" aria-label="Causes that come back">
              <h2>Causes that come back</h2>
              <DataTable className="mt-1 w-auto min-w-[640px]" rows={causes} rowKey={(c) => c.cause} columns={CAUSE_COLUMNS} />
            </section>
          ) : null}
        </>
      )}
    </main>
  );
}

const HEADER = [
  "finding",
  "case",
  "severity",
  "owner",
  "what is off",
  "suspected cause",
  "cause in words",
  "test",
  "changed",
  "shown by",
  "cured by",
  "written",
  "cured",
];
const rowOf = (f: FindingLine) => [
  f.title,
  f.caseTitle,
  f.severity,
  f.owner,
  f.what,
  f.causeName,
  f.cause,
  f.test,
  f.change,
  f.shownBy ?? "",
  f.curedBy ?? "",
  f.createdAt,
  f.curedAt ?? "",
];

const COLUMNS: readonly Column<FindingLine>[] = [
  {
    header: "Finding",
    words: true,
    headClassName: "text-left w-56",
    className: "align-top py-[7px]",
    cell: (f) => (
      <>
        <StateMark state={f.curedBy ? "holds" : "fails"} />{" "}
        <Link href={`/cases/${f.caseId}/verdict`} className="font-[560]">
          {f.title}
        </Link>
        <small className="block text-[11.5px] text-ink-3">{f.caseTitle}</small>
      </>
    ),
  },
  { header: "Severity", words: true, headClassName: "text-left w-20", className: "align-top", cell: (f) => f.severity },
  { header: "Sees to it", words: true, headClassName: "text-left w-20", className: "align-top", cell: (f) => f.owner || "nobody" },
  {
    header: "Age",
    words: true,
    headClassName: "text-left w-36",
    className: "align-top whitespace-nowrap",
    cell: (f) => ageText(f.createdAt, f.curedAt),
  },
  { header: "Symptom", words: true, headClassName: "text-left", className: "align-top text-ink-2", cell: (f) => f.what },
  {
    header: "Suspected, tested, changed",
    words: true,
    headClassName: "text-left",
    className: "align-top text-ink-2",
    cell: (f) =>
      chain(f).map((part) => (
        <span key={part} className="block">
          {part}
        </span>
      )),
  },
  {
    header: "Shown, cured by",
    words: true,
    headClassName: "text-left w-36",
    className: "align-top text-ink-2",
    cell: (f) => (
      <>
        <span className="block">{f.shownBy ?? "no run linked"}</span>
        <span className="block">{f.curedBy ?? "open"}</span>
      </>
    ),
  },
];

const chain = (f: FindingLine): string[] => {
  const suspected = [f.causeName, f.cause].filter(Boolean).join(". ");
  return [suspected ? `Suspected: ${suspected}` : "", f.test ? `Tested: ${f.test}` : "", f.change ? `Changed: ${f.change}` : ""].filter(Boolean);
};

const CAUSE_COLUMNS: readonly Column<CauseCount>[] = [
  { header: "Cause", words: true, headClassName: "text-left", cell: (c) => sentenceCase(c.cause) },
  { header: "Findings", cell: (c) => c.count },
  { header: "Open", cell: (c) => c.open },
  { header: "Cases", cell: (c) => c.cases },
  { header: "Days to cure, median", cell: (c) => c.days ?? "–" },
];
