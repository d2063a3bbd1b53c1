"use client";

import { Trash2 } from "lucide-react";
import Link from "next/link";
import { useCallback, useState } from "react";
import type { BoardRow } from "@/core/assessment/results/boardRow";
import { MiniRule, MiniRuleHead } from "../charts/MiniRule";
import { ConfirmButton } from "../forms/ConfirmButton";
import { useRemoval } from "../forms/useRemoval";
import { useSave } from "../forms/useSave";
import { STATE_WORDS, StateMark } from "../shell/StateMark";
import { type Column, DataTable, Unseen } from "../tables/DataTable";

const GROUPS = [
  ["exact", "One effect at a time, exact answer known"],
  ["published", "Several effects, published figures"],
  ["measured", "Rig and site, measured"],
] as const;

const STATES = [
  ["settled", "Settled", "settling"],
  ["balanced", "Balanced", "balance"],
  ["refined", "Refined", "refinement"],
  ["compared", "Compared", "comparison"],
] as const;

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

/** Cases in groups by the kind of their truth, each with its states and its small rule; rows are made as they come into view. */
export function BoardTable({ rows }: { rows: readonly BoardRow[] }) {
  const [shown, edge] = useMore(rows.length);
  const inOrder = GROUPS.flatMap(([kind]) => rows.filter((r) => r.kind === kind)).slice(0, shown);
  const groups = GROUPS.map(([kind, title]) => ({ title, rows: inOrder.filter((r) => r.kind === kind) })).filter((g) => g.rows.length);
  return (
    <>
      <DataTable className="mt-2" groups={groups} rowKey={(r) => r.id} columns={COLUMNS} />
      {shown < rows.length ? (
        <p key={shown} ref={edge} className="mt-2 text-[12px] text-ink-3">
          {shown} of {rows.length} shown
        </p>
      ) : null}
    </>
  );
}

const COLUMNS: readonly Column<BoardRow>[] = [
  {
    header: "Case and leading quantity",
    headClassName: "w-[258px] text-left",
    words: true,
    className: "py-[7px]",
    cell: (r) => (
      <>
        <Link href={`/cases/${r.id}/question`} className="font-[560]">
          {r.title}
          {r.damaged ? <span className="ml-2 border-l-2 border-pointer pl-1.5 text-[11.5px] text-ink-2">something stored is damaged</span> : null}
        </Link>
        <small className="block text-[11.5px] text-ink-3">{r.leading}</small>
      </>
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
