import { duration, percent, significant } from "@/core/formatting/number";
import type { RunStatus as Status } from "@/core/problems/build/benchJob";
import { StateMark } from "../../shell/StateMark";
import { type Column, DataTable } from "../../tables/DataTable";

type Boundary = Status["boundaries"][number];

/** What a run under way has to say: warnings in words, time left, memory, balances. */
export function RunStatus({ status }: { status: Status }) {
  return (
    <div className="mt-1 text-[12.5px]" aria-live="polite" data-testid="run-status">
      {status.warnings.map((w) => (
        <p key={w} className="flex gap-2">
          <StateMark state="remark" />
          <span>{w}</span>
        </p>
      ))}
      <p className="text-ink-2">{statusSentence(status)}</p>
      <details className="text-[12px]">
        <summary className="cursor-pointer text-ink-3">Through each boundary, outward</summary>
        <DataTable className="tight mt-1" rows={status.boundaries} rowKey={(b) => b.name} columns={columnsOf(status)} />
      </details>
    </div>
  );
}

function statusSentence(s: Status): string {
  const left = s.secondsLeft;
  const parts = [
    left === undefined
      ? "The residuals do not fall at present."
      : `${left < 1 ? "Less than a second" : `About ${duration(left)}`} left${s.iterationsLeft ? `, ${s.iterationsLeft} iterations` : ""}.`,
    s.share === undefined ? "" : `${Math.round(s.share * 100)} % of the time is done.`,
    `${significant(s.memoryBytes / 1e6, 2)} MB.`,
    `Out of balance: ${s.balance.map((l) => `${l.what} ${percent(l.relative)}`).join(", ") || "nothing flows"}.`,
  ];
  return parts.filter(Boolean).join(" ");
}

const flow = (x: number | undefined) => (x === undefined ? "–" : significant(x, 4));
const total = (parts: readonly number[] | undefined) => parts?.reduce((s, v) => s + v, 0);

function columnsOf({ boundaries }: Status): Column<Boundary>[] {
  const carried = [...new Set(boundaries.flatMap((b) => Object.keys(b.scalars ?? {})))];
  return [
    { header: "Boundary", words: true, cell: (b) => b.name },
    { header: "Mass, kg/s", cell: (b) => flow(b.mass) },
    { header: "x force and momentum, N", cell: (b) => flow(total(b.momentumX)) },
    { header: "y force and momentum, N", cell: (b) => flow(total(b.momentumY)) },
    ...carried.map((key): Column<Boundary> => ({ header: key, cell: (b) => flow(total(b.scalars?.[key])) })),
  ];
}
