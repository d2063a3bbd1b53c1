"use client";

import { Search } from "lucide-react";
import Link from "next/link";
import { useState } from "react";
import type { BoardRow } from "@/core/assessment/results/boardRow";
import { firstFew } from "@/core/formatting/firstFew";
import { isJudged } from "@/core/remarks/remark";
import { useAsked } from "../api/useAsked";
import { STATE_WORDS, StateMark } from "../shell/StateMark";
import { BoardTable } from "./BoardTable";
import { OPEN_SIEVE, ORDERS, type Sieve, sifted, tagsOf } from "./boardOrder";

interface Named {
  readonly id: string;
  readonly title: string;
}

interface View {
  readonly rows: readonly BoardRow[];
  readonly waiting: readonly Named[];
  readonly broken: readonly (Named & { readonly sentence: string })[];
  readonly stamp: string;
}

const ASK_MS = 1000;

/** The board the page came with, and then all of it; asked for again while cases are being worked out. */
function useBoard(first: View, whole: boolean): View {
  const [asking, setAsking] = useState(true);
  const { data } = useAsked("GET /board", whole ? undefined : {}, first.stamp, asking ? ASK_MS : undefined);
  const view = whole || !data ? first : (data as unknown as View);
  const unfinished = view === first || view.waiting.length > 0;
  if (asking !== unfinished) setAsking(unfinished);
  return view;
}

interface BoardProps {
  readonly first: View;
  /** nothing is missing from it */
  readonly whole: boolean;
  readonly programme: string;
}

/** All cases of a programme at a glance: states with figures, the small rule, findings. */
export function Board({ first, whole, programme }: BoardProps) {
  const view = useBoard(first, whole);
  const { rows, waiting, broken } = view;
  const [sieve, setSieve] = useState(OPEN_SIEVE);
  const shown = sifted(rows, sieve);
  return (
    <main id="main" tabIndex={-1} className="flex flex-1 flex-col bg-sheet px-6 py-4">
      <div className="flex items-end justify-between gap-4">
        <div>
          <h1>Cases</h1>
          <p className="mt-0.5 text-[12.5px] text-ink-3">
            {evidenceSentence(rows)}{" "}
            <Link className="link" href="/programme">
              {programme || "Programme"}
            </Link>
            {rows.length ? (
              <>
                {", "}
                <Link className="link" href="/matrix">
                  matrix
                </Link>
              </>
            ) : null}
          </p>
        </div>
        <div className="flex items-center gap-2">
          {rows.length ? <SieveEntries rows={rows} sieve={sieve} set={setSieve} /> : null}
          <NewCaseLink />
        </div>
      </div>
      {broken.map((b) => (
        <p key={b.id} role="alert" className="mt-3 max-w-[90ch] border-l-2 border-pointer pl-3 text-[12.5px]">
          <b>{b.title}</b> cannot be shown: {b.sentence} The other cases are as they were.
        </p>
      ))}
      {waiting.length ? <Waiting waiting={waiting} done={rows.length} /> : null}
      {rows.length === 0 && broken.length === 0 && waiting.length === 0 ? (
        <div className="mt-8 max-w-[52ch] border-l-2 border-tin pl-4 text-ink-2">
          No case yet. A case begins with a question and a template: a bench problem solved here, or results brought in from another code.
          <div className="mt-3">
            <NewCaseLink />
          </div>
        </div>
      ) : (
        <BoardTable rows={shown} stamp={view.stamp} />
      )}
      {rows.length > 0 && shown.length === 0 ? (
        <p className="mt-4 text-ink-2">
          No case is like that.{" "}
          <button type="button" className="link" onClick={() => setSieve(OPEN_SIEVE)}>
            Show all
          </button>
        </p>
      ) : null}
      <StateLegend />
    </main>
  );
}

/** Which cases are shown, and in which order. */
function SieveEntries({ rows, sieve, set }: { rows: readonly BoardRow[]; sieve: Sieve; set: (s: Sieve) => void }) {
  const tags = tagsOf(rows);
  const choose = <Key extends keyof Sieve>(key: Key, label: string, choices: readonly (readonly [Sieve[Key] & string, string])[]) => (
    <select className="field words w-auto" aria-label={label} value={sieve[key]} onChange={(e) => set({ ...sieve, [key]: e.target.value })}>
      {choices.map(([v, name]) => (
        <option key={v} value={v}>
          {name}
        </option>
      ))}
    </select>
  );
  return (
    <>
      {choose("state", "State", [["", "any state"], ...STATES.map((s) => [s, STATE_WORDS[s]] as const)])}
      {tags.length ? choose("tag", "Tag", [["", "any tag"], ...tags.map((t) => [t, t] as const)]) : null}
      {choose(
        "order",
        "Order",
        ORDERS.map((o) => [o, o] as const),
      )}
      <SearchCases search={sieve.search} setSearch={(search) => set({ ...sieve, search })} />
    </>
  );
}

const STATES = ["holds", "remark", "fails", "stale", "none"] as const;

const NAMED = 3;

/** Cases that are being worked out: how many, and which come next. */
function Waiting({ waiting, done }: { waiting: readonly Named[]; done: number }) {
  const names = firstFew(
    waiting.map((w) => w.title),
    NAMED,
  );
  return (
    <p className="mt-3 flex items-center gap-3 text-[12.5px] text-ink-2" aria-live="polite">
      <progress className="w-40" value={done} max={done + waiting.length} aria-label="Cases worked out" />
      Being worked out: {names}.
    </p>
  );
}

function evidenceSentence(rows: readonly BoardRow[]): string {
  const states = rows.flatMap((r) => r.verdicts);
  const complete = states.filter(isJudged).length;
  const stale = states.filter((s) => s === "stale").length;
  return `${rows.length} cases, ${states.length} quantities. ${complete} ${complete === 1 ? "rests" : "rest"} on complete evidence, ${stale} on stale evidence, ${states.length - complete - stale} have gaps.`;
}

const NewCaseLink = () => (
  <Link href="/new" className="btn">
    New case
  </Link>
);

function SearchCases({ search, setSearch }: { search: string; setSearch: (search: string) => void }) {
  return (
    <div className="relative">
      <Search size={13} className="absolute top-2 left-2 text-ink-3" aria-hidden="true" />
      <input
        className="field words w-44 pl-7"
        placeholder="Search cases"
        aria-label="Search cases"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
      />
    </div>
  );
}

function StateLegend() {
  return (
    <ul className="mt-auto flex gap-6 pt-4 text-[12px] text-ink-2">
      {STATES.map((s) => (
        <li key={s} className="flex items-center gap-1.5">
          <StateMark state={s} plain /> {STATE_WORDS[s]}
        </li>
      ))}
    </ul>
  );
}
