"use client";

import { Search, Trash2 } from "lucide-react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { toast } from "sonner";
import type { BoardCell } from "@/core/assessment/results/case";
import type { QuantityRule } from "@/core/method/budget/rule";
import type { State } from "@/core/remarks/remark";
import { call, Refused } from "../api/call";
import { MiniAxis, MiniRule } from "../charts/MiniRule";
import { ConfirmButton } from "../forms/ConfirmButton";
import { STATE_WORDS, StateMark } from "../shell/StateMark";

export interface BoardRow {
  readonly id: string;
  readonly title: string;
  readonly kind: "exact" | "published" | "measured";
  readonly leading: string;
  readonly board: Readonly<Record<"settled" | "balanced" | "refined" | "compared", BoardCell>>;
  readonly rule: QuantityRule | undefined;
  readonly verdicts: readonly State[];
  readonly openFindings: number;
}

const GROUPS = [
  ["exact", "One effect at a time, exact answer known"],
  ["published", "Several effects, published figures"],
  ["measured", "Rig and site, measured"],
] as const;
const COLUMNS = [
  ["settled", "Settled", "settling"],
  ["balanced", "Balanced", "balance"],
  ["refined", "Refined", "refinement"],
  ["compared", "Compared", "comparison"],
] as const;

/** All cases at a glance: states with figures, the small rule, findings. */
export function Board({ rows }: { rows: readonly BoardRow[] }) {
  const router = useRouter();
  const [search, setSearch] = useState("");
  const shown = rows.filter((r) => `${r.title} ${r.leading}`.toLowerCase().includes(search.trim().toLowerCase()));
  const states = rows.flatMap((r) => r.verdicts);
  const complete = states.filter((s) => s === "holds" || s === "remark" || s === "fails").length;
  const stale = states.filter((s) => s === "stale").length;
  const remove = async (row: BoardRow) => {
    try {
      await call("DELETE /cases/{id}", { at: { id: row.id } });
      toast(`${row.title} was deleted.`, {
        duration: 12_000,
        action: { label: "Undo", onClick: () => void call("POST /cases/{id}/restore", { at: { id: row.id } }).then(() => router.refresh()) },
      });
      router.refresh();
    } catch (error) {
      toast.error(error instanceof Refused ? error.message : String(error));
    }
  };
  return (
    <main id="main" tabIndex={-1} className="flex flex-1 flex-col bg-sheet px-6 py-4">
      <div className="flex items-end justify-between">
        <div>
          <h1>Cases</h1>
          <p className="mt-0.5 text-[12.5px] text-ink-3">
            {rows.length} cases, {states.length} quantities. {complete} {complete === 1 ? "rests" : "rest"} on complete evidence, {stale} on stale
            evidence, {states.length - complete - stale} have gaps.
          </p>
        </div>
        <div className="flex items-center gap-2">
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
          <Link href="/new" className="btn">
            New case
          </Link>
        </div>
      </div>
      {rows.length === 0 ? (
        <div className="mt-8 max-w-[52ch] border-l-2 border-tin pl-4 text-ink-2">
          No case yet. A case begins with a question and a template: a bench problem solved here, or results brought in from another code.
          <div className="mt-3">
            <Link href="/new" className="btn">
              New case
            </Link>
          </div>
        </div>
      ) : (
        <table className="mt-2">
          <thead>
            <tr>
              <th className="w-[258px]">Case and leading quantity</th>
              {COLUMNS.map(([key, name]) => (
                <th key={key} className="w-[106px]">
                  {name}
                </th>
              ))}
              <th className="w pl-5" style={{ width: 340 }}>
                Error sources
                <span className="block">
                  <MiniAxis />
                </span>
              </th>
              <th>Findings</th>
              <th className="w-8">
                <span className="sr-only">Delete</span>
              </th>
            </tr>
          </thead>
          {GROUPS.map(([kind, title]) => {
            const group = shown.filter((r) => r.kind === kind);
            if (!group.length) return null;
            return (
              <tbody key={kind}>
                <tr>
                  <th colSpan={8} scope="rowgroup" className="pt-3.5 text-left text-[12px] font-semibold text-ink-2">
                    {title}
                  </th>
                </tr>
                {group.map((r) => (
                  <tr key={r.id}>
                    <td className="w py-[7px]">
                      <Link href={`/cases/${r.id}/question`} className="font-[560]">
                        {r.title}
                      </Link>
                      <small className="block text-[11.5px] text-ink-3">{r.leading}</small>
                    </td>
                    {COLUMNS.map(([key, name, stage]) => {
                      const c = r.board[key];
                      return (
                        <td key={key} className="whitespace-nowrap">
                          <Link href={`/cases/${r.id}/${stage}`} aria-label={`${name}: ${c.figure} ${STATE_WORDS[c.state]}`}>
                            {c.figure} <span className="ml-1.5">{<StateMark state={c.state} plain />}</span>
                          </Link>
                        </td>
                      );
                    })}
                    <td className="py-0.5 pl-5 text-left">
                      <Link href={`/cases/${r.id}/verdict`} aria-label={`Verdict of ${r.title}`}>
                        <MiniRule rule={r.rule} />
                      </Link>
                    </td>
                    <td>
                      {r.openFindings ? (
                        <Link href={`/cases/${r.id}/verdict`} aria-label={`${r.openFindings} open findings of ${r.title}`}>
                          {r.openFindings}
                        </Link>
                      ) : (
                        ""
                      )}
                    </td>
                    <td className="pr-0">
                      <ConfirmButton
                        question={`Delete ${r.title}?`}
                        text="Its runs and reports go with it. You can undo this for a few seconds."
                        action="Delete case"
                        onConfirm={() => remove(r)}
                        label={`Delete ${r.title}`}
                      >
                        <Trash2 size={13} />
                      </ConfirmButton>
                    </td>
                  </tr>
                ))}
              </tbody>
            );
          })}
        </table>
      )}
      {rows.length > 0 && shown.length === 0 ? <p className="mt-4 text-ink-2">No case has “{search}” in its name.</p> : null}
      <ul className="mt-auto flex gap-6 pt-4 text-[12px] text-ink-2">
        {(["holds", "remark", "fails", "stale", "none"] as const).map((s) => (
          <li key={s} className="flex items-center gap-1.5">
            <StateMark state={s} plain /> {STATE_WORDS[s]}
          </li>
        ))}
      </ul>
    </main>
  );
}
