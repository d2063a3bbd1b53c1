import type { RunBalance } from "@/core/assessment/results/balance";
import { count, percent, powerOfTen } from "@/core/formatting/number";
import { resolve } from "@/core/formatting/scale";
import { StateMark } from "../../shell/StateMark";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";

const LAW_COLUMNS: readonly Column<RunBalance["laws"][number]>[] = [
  {
    header: "Rule",
    words: true,
    cell: (l) => (
      <a className="link" href={`/method#${l.law}`}>
        {l.demands}
      </a>
    ),
  },
  { header: "Off by", cell: (l) => (l.share === 0 ? "0" : percent(l.share)) },
  { header: "Let pass", cell: (l) => (l.limit < 1e-6 ? powerOfTen(Math.round(Math.log10(l.limit || 1e-9))) : percent(l.limit)) },
  { header: <Unseen>State</Unseen>, words: true, cell: (l) => <StateMark state={l.state} /> },
];

/** What symmetry and thermodynamics ask of a run. */
export function Laws({ b }: { b: RunBalance }) {
  if (!b.laws.length) return null;
  return (
    <>
      <h2 className="mt-5">What symmetry and thermodynamics ask</h2>
      <DataTable className="mt-1 max-w-[760px]" rows={b.laws} rowKey={(l) => l.law} columns={LAW_COLUMNS} />
    </>
  );
}

type SecondWay = RunBalance["second"][number];

const SECOND_COLUMNS: readonly Column<SecondWay>[] = [
  { header: "Quantity", words: true, cell: (s) => s.name },
  { header: "By", words: true, cell: (s) => s.firstBy },
  { header: "Value", cell: (s) => resolve([s.first, s.second])(s.first) },
  { header: "And by", words: true, cell: (s) => s.secondBy },
  { header: "Value", cell: (s) => resolve([s.first, s.second])(s.second) },
  { header: "Apart", cell: (s) => percent(s.relative) },
  {
    header: "Let pass",
    title: (s) => (s.against === "1 %" ? "one in a hundred, while there is no mesh study" : s.against),
    cell: (s) => percent(s.limit),
  },
  { header: <Unseen>State</Unseen>, words: true, cell: (s) => <StateMark state={s.state} /> },
];

/** Quantities worked out a second way. */
export function SecondWays({ b }: { b: RunBalance }) {
  if (!b.second.length) return null;
  return (
    <>
      <h2 className="mt-5">Worked out a second way</h2>
      <DataTable rows={b.second} rowKey={(s) => s.name} columns={SECOND_COLUMNS} />
      {b.second.some((s) => Math.abs(s.first) > 0) ? (
        <p className="mt-1 text-[11.5px] text-ink-3">
          {b.cells === undefined ? "" : `On ${count(b.cells)} cells. `}The two share neither faces nor differences; both carry the mesh's error.
        </p>
      ) : null}
    </>
  );
}
