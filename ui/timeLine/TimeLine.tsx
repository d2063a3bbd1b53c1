"use client";

import Link from "next/link";
import { useAsked } from "../api/useAsked";
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

type Earlier = Pick<Entry, "at" | "says" | "by" | "method">;

interface Props {
  readonly entries: readonly Entry[];
  /** what was done to the case in the data folder it came from */
  readonly earlier: readonly Earlier[];
  readonly caseId: string | undefined;
}

/** Who did what when: entries that are only added, each chained to the one before. */
export function TimeLine({ entries, earlier, caseId }: Props) {
  const last = entries.at(-1)?.sequence;
  const older = last && last > 1 ? `/time-line?${new URLSearchParams({ ...(caseId ? { case: caseId } : {}), before: String(last) })}` : undefined;
  return (
    <main id="main" tabIndex={-1} className="flex-1 bg-sheet px-6 py-4">
      <div className="flex items-end justify-between gap-4">
        <div>
          <h1>Time line{caseId && entries[0]?.title ? ` of ${entries[0].title}` : ""}</h1>
          <Chain />
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
      {older ? null : <BeforeItCame entries={earlier} />}
      {older ? (
        <Link className="link mt-3 inline-block text-[12.5px]" href={older}>
          Older entries
        </Link>
      ) : null}
    </main>
  );
}

/** Whether the chain holds: the whole of it is walked, after the page is there. */
function Chain() {
  const { data: chain, error } = useAsked("GET /time-line/check", {});
  if (error) return <p className="mistake">{error.message}</p>;
  return (
    <p className="mt-0.5 min-h-5 text-[12.5px] text-ink-2" aria-live="polite">
      {chain ? (
        <>
          <StateMark state={chain.broken ? "fails" : "holds"} plain /> {chain.sentence} End of the chain{" "}
          <span className="font-mono text-[11.5px]">{chain.hash.slice(0, 16)}</span>
        </>
      ) : (
        "Every entry is being held against the one before."
      )}
    </p>
  );
}

/** What was done to a case before it came here with an evidence pack. */
function BeforeItCame({ entries }: { entries: readonly Earlier[] }) {
  if (!entries.length) return null;
  return (
    <section className="mt-6" aria-label="Before it came here">
      <h2>Before it came here</h2>
      <p className="text-[12.5px] text-ink-2">
        From the time line of the data folder its evidence pack was made in; the pack’s check held them against their hashes.
      </p>
      <DataTable className="mt-1" rows={entries} rowKey={(e) => `${e.at} ${e.says}`} columns={SAID} />
    </section>
  );
}

const HEADER = ["entry", "at, UTC", "what", "case", "by", "request", "hash of what was sent", "hash of the entry before", "hash"];
const rowOf = (e: Entry) => [e.sequence, e.at, e.says, e.title ?? e.caseId ?? "", e.by ?? "", `${e.method} ${e.path}`, e.inputHash, e.before, e.hash];

/** What an operation does, without what it adds to that; what the bench did, with the run's name. */
const wordsOf = ({ says, method }: Earlier): string => (method === "bench" ? says : says.replace(/[:;.].*$/s, ""));

const SAID: readonly Column<Earlier>[] = [
  {
    header: "At, UTC",
    words: true,
    headClassName: "text-left w-40",
    className: "whitespace-nowrap",
    cell: (e) => e.at.slice(0, 19).replace("T", " "),
  },
  { header: "By", words: true, headClassName: "text-left w-20", cell: (e) => e.by ?? "" },
  { header: "What", words: true, headClassName: "text-left", cell: wordsOf },
];
const COLUMNS: readonly Column<Entry>[] = [
  { header: "Entry", headClassName: "w-16", cell: (e) => e.sequence },
  ...SAID,
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
