"use client";

import { Trash2 } from "lucide-react";
import Link from "next/link";
import { type KeyboardEvent, lazy, Suspense, useCallback, useState } from "react";
import type { BoardRow } from "@/core/assessment/results/boardRow";
import { LEVEL_WORDS, LEVELS } from "@/core/records/programme";
import { MiniRule, MiniRuleHead } from "../charts/MiniRule";
import { ConfirmButton } from "../forms/ConfirmButton";
import { useRemoval } from "../forms/useRemoval";
import { useSave } from "../forms/useSave";
import { STATE_WORDS, StateMark } from "../shell/StateMark";
import { type Column, DataTable, Unseen } from "../tables/DataTable";

const STATES = [
  ["settled", "Settled", "settling"],
  ["balanced", "Balanced", "balance"],
  ["refined", "Refined", "refinement"],
  ["compared", "Compared", "comparison"],
] as const;

/** opened by few: fetched when it is */
const RowDetail = lazy(() => import("./RowDetail").then((m) => ({ default: m.RowDetail })));

/** rows that are shown at first, and that join them whenever the last comes into view */
const STEP = 16;

/** How many rows are shown, and what has to come into view for more. */
function useMore(all: number): [shown: number, edge: (element: HTMLElement | null) => (() => void) | undefined] {
  const [shown, setShown] = useState(STEP);
  const edge = useCallback((element: HTMLElement | null) => {
    if (!element) return undefined;
    const watch = new IntersectionObserver(([e]) => e.isIntersecting && setShown((n) => n + STEP), { rootMargin: "600px" });
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return [Math.min(shown, all), edge];
}

/** A set of names, and a press that puts one in or takes it out. */
function useToggles(): [ReadonlySet<string>, (name: string, on?: boolean) => void] {
  const [on, setOn] = useState<ReadonlySet<string>>(new Set());
  const toggle = useCallback(
    (name: string, to?: boolean) =>
      setOn((before) => {
        const next = new Set(before);
        if (to ?? !next.has(name)) next.add(name);
        else next.delete(name);
        return next;
      }),
    [],
  );
  return [on, toggle];
}

/**
 * Cases in groups by their step towards the application, each with its states and its small rule; rows are made as they come into view. Groups fold, rows
 * open below themselves; by the keys up and down from row to row, right opens and left closes.
 */
export function BoardTable({ rows, stamp }: { rows: readonly BoardRow[]; stamp: string }) {
  const [folded, fold] = useToggles();
  const [open, toggle] = useToggles();
  const all = LEVELS.map((level) => ({ level, rows: rows.filter((r) => r.level === level) })).filter((g) => g.rows.length);
  const unfolded = all.flatMap((g) => (folded.has(g.level) ? [] : g.rows));
  const [shown, edge] = useMore(unfolded.length);
  const near = new Set(unfolded.slice(0, shown));
  const groups = all.map(({ level, rows: own }) => ({
    title: LEVEL_WORDS[level],
    rows: own.filter((r) => near.has(r)),
    fold: { closed: folded.has(level), count: own.length, toggle: () => fold(level) },
  }));
  const keys = (e: KeyboardEvent<HTMLDivElement>) => {
    const link = (e.target as HTMLElement).closest<HTMLElement>("[data-row]");
    if (!link || e.altKey || e.ctrlKey || e.metaKey) return;
    const id = link.dataset.row ?? "";
    if (e.key === "ArrowRight" || e.key === "ArrowLeft") toggle(id, e.key === "ArrowRight");
    else if (e.key === "ArrowDown" || e.key === "ArrowUp") {
      const links = [...e.currentTarget.querySelectorAll<HTMLElement>("[data-row]")];
      links[links.indexOf(link) + (e.key === "ArrowDown" ? 1 : -1)]?.focus();
    } else return;
    e.preventDefault();
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the rows' links take the keys; this hears them for all rows
    <div onKeyDown={keys}>
      <DataTable
        className="mt-2"
        groups={groups}
        rowKey={(r) => r.id}
        columns={columnsOf(open, toggle)}
        detail={(r) =>
          open.has(r.id) ? (
            <Suspense fallback={null}>
              <RowDetail row={r} stamp={stamp} />
            </Suspense>
          ) : null
        }
      />
      {shown < unfolded.length ? (
        <p key={shown} ref={edge} className="mt-2 text-[12px] text-ink-3">
          {shown} of {unfolded.length} shown
        </p>
      ) : null}
    </div>
  );
}

const columnsOf = (open: ReadonlySet<string>, toggle: (id: string) => void): readonly Column<BoardRow>[] => [
  {
    header: "Case and leading quantity",
    headClassName: "w-[258px] text-left",
    words: true,
    className: "py-[7px]",
    cell: (r) => (
      <div className="flex items-start gap-1.5">
        <button
          type="button"
          aria-expanded={open.has(r.id)}
          aria-label={`${r.title} in full`}
          className="w-3.5 shrink-0 font-mono text-ink-3"
          onClick={() => toggle(r.id)}
        >
          {open.has(r.id) ? "−" : "+"}
        </button>
        <span>
          <Link href={`/cases/${r.id}/question`} className="font-[560]" data-row={r.id}>
            {r.title}
            {r.damaged ? <span className="ml-2 border-l-2 border-pointer pl-1.5 text-[11.5px] text-ink-2">something stored is damaged</span> : null}
          </Link>
          <small className="block text-[11.5px] text-ink-3">{[r.leading, ...r.tags].join(" · ")}</small>
        </span>
      </div>
    ),
  },
  ...STATES.map(
    ([key, name, stage]): Column<BoardRow> => ({
      header: name,
      headClassName: "w-[106px]",
      className: "whitespace-nowrap",
      cell: ({ id, board: { [key]: c } }) => (
        <Link href={`/cases/${id}/${stage}`} aria-label={`${name}: ${c.figure} ${STATE_WORDS[c.state]}`}>
          {c.figure}{" "}
          <span className="ml-1.5">
            <StateMark state={c.state} plain />
          </span>
        </Link>
      ),
    }),
  ),
  {
    header: <MiniRuleHead />,
    headClassName: "w-[340px] pl-5 text-left",
    className: "py-0.5 pl-5 text-left",
    cell: (r) => (
      <Link href={`/cases/${r.id}/verdict`} aria-label={`Verdict of ${r.title}`}>
        <MiniRule rule={r.rule} />
      </Link>
    ),
  },
  {
    header: "Findings",
    cell: (r) =>
      r.openFindings ? (
        <Link href={`/cases/${r.id}/verdict`} aria-label={`${r.openFindings} open findings of ${r.title}`}>
          {r.openFindings}
        </Link>
      ) : (
        ""
      ),
  },
  { header: <Unseen>Delete</Unseen>, headClassName: "w-8", className: "pr-0", cell: (r) => <DeleteCase row={r} /> },
];

function DeleteCase({ row }: { row: BoardRow }) {
  const remove = useRemoval(useSave().save);
  const at = { id: row.id };
  return (
    <ConfirmButton
      question={`Delete ${row.title}?`}
      text="Its runs and reports go with it. You can undo this for a few seconds."
      action="Delete case"
      onConfirm={() => void remove(`${row.title} was deleted.`, ["DELETE /cases/{id}", { at }], ["POST /cases/{id}/restore", { at }])}
      label={`Delete ${row.title}`}
    >
      <Trash2 size={13} />
    </ConfirmButton>
  );
}
