"use client";

import Link from "next/link";
import { StateMark } from "../shell/StateMark";
import { CsvButton } from "../tables/CsvButton";
import { type Column, DataTable } from "../tables/DataTable";

interface Entry {
  readonly sequence: number;
  readonly at: string;
  readonly says: string;
  readonly method: string;
  readonly path: string;
  readonly caseId: string | null;
  readonly title?: string;
  readonly by: string | null;
  readonly inputHash: string;
  readonly before: string;
  readonly hash: string;
}

interface Props {
  readonly entries: readonly Entry[];
  readonly chain: { readonly entries: number; readonly broken?: number; readonly sentence: string; readonly hash: string };
  readonly caseId: string | undefined;
}

/** Who did what when: entries that are only added, each chained to the one before. */
export function TimeLine({ entries, chain, caseId }: Props) {
  const last = entries.at(-1)?.sequence;
  const older = last && last > 1 ? `/time-line?${new URLSearchParams({ ...(caseId ? { case: caseId } : {}), before: String(last) })}` : undefined;
  return (
    <main id="main" tabIndex={-1} className="flex-1 bg-sheet px-6 py-4">
      <div className="flex items-end justify-between gap-4">
        <div>
          <h1>Time line{caseId && entries[0]?.title ? ` of ${entries[0].title}` : ""}</h1>
          <p className="mt-0.5 text-[12.5px] text-ink-2">
            <StateMark state={chain.broken ? "fails" : "holds"} plain /> {chain.sentence} End of the chain{" "}
            <span className="font-mono text-[11.5px]">{chain.hash.slice(0, 16)}</span>
          </p>
        </div>
        <span className="flex gap-4">
          {caseId ? (
            <Link className="link text-[12.5px]" href="/time-line">
              All of it
            </Link>
          ) : null}
          <CsvButton name="time-line" header={HEADER} rows={entries.map(rowOf)} />
        </span>
      </div>
      {entries.length ? (
        <DataTable className="mt-2" rows={entries} rowKey={(e) => String(e.sequence)} columns={COLUMNS} />
      ) : (
        <p className="mt-4 text-ink-2">Nothing was changed yet. Every change that is made here is entered, with who signed it where it was signed.</p>
      )}
      {older ? (
        <Link className="link mt-3 inline-block text-[12.5px]" href={older}>
          Older entries
        </Link>
      ) : null}
    </main>
  );
}

const HEADER = ["entry", "at, UTC", "what", "case", "by", "request", "hash of what was sent", "hash of the entry before", "hash"];
const rowOf = (e: Entry) => [e.sequence, e.at, e.says, e.title ?? e.caseId ?? "", e.by ?? "", `${e.method} ${e.path}`, e.inputHash, e.before, e.hash];

const COLUMNS: readonly Column<Entry>[] = [
  { header: "Entry", headClassName: "w-16", cell: (e) => e.sequence },
  {
    header: "At, UTC",
    words: true,
    headClassName: "text-left w-40",
    className: "whitespace-nowrap",
    cell: (e) => e.at.slice(0, 19).replace("T", " "),
  },
  { header: "By", words: true, headClassName: "text-left w-20", cell: (e) => e.by ?? "" },
  { header: "What", words: true, headClassName: "text-left", cell: (e) => e.says.replace(/[:;.].*$/s, "") },
  {
    header: "Case",
    words: true,
    headClassName: "text-left w-64",
    cell: (e) =>
      e.title ? (
        <Link className="link" href={`/time-line?case=${e.caseId}`}>
          {e.title}
        </Link>
      ) : (
        ""
      ),
  },
  { header: "Hash", headClassName: "w-32", className: "text-[11.5px]! text-ink-3", cell: (e) => e.hash.slice(0, 12) },
];
