"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import type { QuantityLine } from "@/core/assessment/results/boardRow";
import { percent, significant, unitText } from "@/core/formatting/number";
import { MiniRule, MiniRuleHead } from "../charts/MiniRule";
import { Field } from "../forms/Field";
import { StateMark } from "../shell/StateMark";
import { CsvButton } from "../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../tables/DataTable";

interface Line extends QuantityLine {
  readonly caseId: string;
  readonly title: string;
}

interface Props {
  readonly lines: readonly Line[];
  /** cases that are being worked out */
  readonly waiting: number;
  /** name of the quantity that is shown over all cases */
  readonly of: string | undefined;
  /** case whose quantities are all shown */
  readonly caseId: string | undefined;
}

const ALL = "";

/** Quantities one under the other on one scale: one over all cases, or all of a case; the least certain first. */
export function Across({ lines, waiting, of = ALL, caseId = ALL }: Props) {
  const router = useRouter();
  const names = [...new Set(lines.map((l) => l.name))].sort((a, b) => a.localeCompare(b));
  const cases = [...new Map(lines.map((l) => [l.caseId, l.title]))];
  const shown = lines
    .filter((l) => (of === ALL || l.name === of) && (caseId === ALL || l.caseId === caseId))
    .sort((a, b) => b.numerical - a.numerical);
  const go = (next: { of?: string; case?: string }) => {
    const asked = Object.entries({ of, case: caseId, ...next }).filter(([, v]) => v !== ALL);
    router.push(`/quantities${asked.length ? `?${new URLSearchParams(Object.fromEntries(asked))}` : ""}`);
  };
  return (
    <main id="main" tabIndex={-1} className="flex-1 bg-sheet px-6 py-4">
      <div className="flex items-end justify-between">
        <div>
          <h1>Quantities</h1>
          <p className="mt-0.5 text-[12.5px] text-ink-3">One under the other on one scale, the least certain first.</p>
        </div>
        <div className="no-print flex items-end gap-3">
          <Choice label="Quantity" all="every quantity" value={of} choices={names.map((n) => [n, n])} choose={(v) => go({ of: v })} />
          <Choice label="Case" all="all cases" value={caseId} choices={cases} choose={(v) => go({ case: v })} />
          <CsvButton name="quantities" header={HEADER} rows={shown.map(rowOf)} />
        </div>
      </div>
      {waiting ? <p className="mt-3 text-[12.5px] text-ink-2">{waiting} cases are still being worked out; open the page again for them.</p> : null}
      {shown.length ? (
        <DataTable className="mt-2" rows={shown} rowKey={(l) => `${l.caseId} ${l.key}`} columns={COLUMNS} />
      ) : (
        <p className="mt-4 text-ink-2">{lines.length ? "No case has that quantity." : "No case has a quantity yet."}</p>
      )}
    </main>
  );
}

function Choice(p: { label: string; all: string; value: string; choices: readonly (readonly [string, string])[]; choose: (v: string) => void }) {
  return (
    <div className="w-60">
      <Field label={p.label} value={p.value} onChange={p.choose} choices={[[ALL, p.all], ...p.choices]} />
    </div>
  );
}

const HEADER = ["case", "quantity", "value", "unit", "numerical uncertainty at 95 %, fraction", "largest source", "open sources", "limit, fraction"];
const rowOf = (l: Line) => [l.title, l.name, l.value ?? "", l.unit, l.numerical, l.largest ?? "", l.open.join("; "), l.limit];

const COLUMNS: readonly Column<Line>[] = [
  {
    header: "Case and quantity",
    words: true,
    className: "py-[7px]",
    cell: (l) => (
      <>
        <Link href={`/cases/${l.caseId}/verdict?q=${encodeURIComponent(l.key)}`} className="font-[560]">
          {l.title}
        </Link>
        <small className="block text-[11.5px] text-ink-3">{l.name}</small>
      </>
    ),
  },
  { header: "Value", cell: (l) => (l.value === undefined ? "–" : `${significant(l.value, 5)} ${unitText(l.unit)}`.trimEnd()) },
  { header: "Numerical, 95 %", cell: (l) => `${l.open.length ? "at least " : ""}${percent(l.numerical)}` },
  { header: "Limit", cell: (l) => percent(l.limit) },
  { header: "Largest", words: true, cell: (l) => l.largest ?? "–" },
  { header: "Open", words: true, cell: (l) => l.open.join(", ") || "none" },
  {
    header: <MiniRuleHead />,
    headClassName: "w-[330px] pl-5 text-left",
    className: "py-0.5 pl-5 text-left",
    cell: (l) => <MiniRule rule={l.rule} />,
  },
  { header: <Unseen>State</Unseen>, words: true, cell: (l) => <StateMark state={l.state} /> },
];
