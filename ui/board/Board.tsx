"use client";

import { Search } from "lucide-react";
import Link from "next/link";
import { useState } from "react";
import type { BoardRow } from "@/core/assessment/results/boardRow";
import { useAsked } from "../api/useAsked";
import { STATE_WORDS, StateMark } from "../shell/StateMark";
import { BoardTable } from "./BoardTable";

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
}

/** All cases at a glance: states with figures, the small rule, findings. */
export function Board({ first, whole }: BoardProps) {
  const { rows, waiting, broken } = useBoard(first, whole);
  const [search, setSearch] = useState("");
  const shown = rows.filter((r) => `${r.title} ${r.leading}`.toLowerCase().includes(search.trim().toLowerCase()));
  return (
    <main id="main" tabIndex={-1} className="flex flex-1 flex-col bg-sheet px-6 py-4">
      <div className="flex items-end justify-between">
        <div>
          <h1>Cases</h1>
          <p className="mt-0.5 text-[12.5px] text-ink-3">{evidenceSentence(rows)}</p>
        </div>
        <div className="flex items-center gap-2">
          <SearchCases search={search} setSearch={setSearch} />
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
        <BoardTable rows={shown} />
      )}
      {rows.length > 0 && shown.length === 0 ? <p className="mt-4 text-ink-2">No case has “{search}” in its name.</p> : null}
      <StateLegend />
    </main>
  );
}

const NAMED = 3;

/** Cases that are being worked out: how many, and which come next. */
function Waiting({ waiting, done }: { waiting: readonly Named[]; done: number }) {
  const names = waiting.slice(0, NAMED).map((w) => w.title);
  const more = waiting.length > NAMED ? ` and ${waiting.length - NAMED} more` : "";
  return (
    <p className="mt-3 flex items-center gap-3 text-[12.5px] text-ink-2" aria-live="polite">
      <progress className="w-40" value={done} max={done + waiting.length} aria-label="Cases worked out" />
      Being worked out: {names.join(", ")}
      {more}.
    </p>
  );
}

function evidenceSentence(rows: readonly BoardRow[]): string {
  const states = rows.flatMap((r) => r.verdicts);
  const complete = states.filter((s) => s === "holds" || s === "remark" || s === "fails").length;
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
        className="field words w-52 pl-7"
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
      {(["holds", "remark", "fails", "stale", "none"] as const).map((s) => (
        <li key={s} className="flex items-center gap-1.5">
          <StateMark state={s} plain /> {STATE_WORDS[s]}
        </li>
      ))}
    </ul>
  );
}
