"use client";

import { Trash2 } from "lucide-react";
import Link from "next/link";
import type { BoardCell } from "@/core/assessment/results/case";
import type { ErrorBudget } from "@/core/method/budget/errorBudget";
import type { State } from "@/core/remarks/remark";
import { MiniAxis, MiniRule } from "../charts/MiniRule";
import { ConfirmButton } from "../forms/ConfirmButton";
import { useRemoval } from "../forms/useRemoval";
import { useSave } from "../forms/useSave";
import { STATE_WORDS, StateMark } from "../shell/StateMark";
import { type Column, DataTable, Unseen } from "../tables/DataTable";

export interface BoardRow {
  readonly id: string;
  readonly title: string;
  readonly kind: "exact" | "published" | "measured";
  readonly leading: string;
  readonly board: Readonly<Record<"settled" | "balanced" | "refined" | "compared", BoardCell>>;
  readonly rule: ErrorBudget | undefined;
  readonly verdicts: readonly State[];
  readonly openFindings: number;
  /** something stored of it cannot be read */
  readonly damaged: boolean;
}

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

/** Cases in groups by the kind of their truth, each with its states and its small rule. */
export function BoardTable({ rows }: { rows: readonly BoardRow[] }) {
  const groups = GROUPS.map(([kind, title]) => ({ title, rows: rows.filter((r) => r.kind === kind) })).filter((g) => g.rows.length);
  return <DataTable className="mt-2" groups={groups} rowKey={(r) => r.id} columns={COLUMNS} />;
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
    header: (
      <>
        Error sources
        <span className="block">
          <MiniAxis />
        </span>
      </>
    ),
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
