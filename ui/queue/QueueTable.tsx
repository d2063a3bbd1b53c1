"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect } from "react";
import type { RunState } from "@/core/records/run";
import { RunControls } from "../stages/runs/RunControls";
import { type Column, DataTable, Unseen } from "../tables/DataTable";

export interface QueueRow {
  readonly id: string;
  readonly label: string;
  readonly caseId: string;
  readonly title: string;
  readonly state: RunState;
  readonly priority: number;
  readonly attempt: number;
  readonly by: string | null;
  /** a checkpoint is kept */
  readonly kept: boolean;
  readonly failure: string | null;
}

/** Everything that runs, waits, rests or was interrupted, in the order it will be taken. */
export function QueueTable({ rows }: { rows: readonly QueueRow[] }) {
  const router = useRouter();
  useEffect(() => {
    const again = setInterval(() => router.refresh(), 2500);
    return () => clearInterval(again);
  }, [router]);
  return <DataTable className="mt-4 max-w-[1100px]" rows={rows} rowKey={(r) => r.id} columns={COLUMNS} />;
}

const COLUMNS: readonly Column<QueueRow>[] = [
  { header: "Run", cell: (r) => r.label },
  {
    header: "Case",
    words: true,
    cell: (r) => (
      <Link className="link" href={`/cases/${r.caseId}/runs`}>
        {r.title}
      </Link>
    ),
  },
  { header: "State", words: true, cell: (r) => (r.state === "waiting" ? "waits" : r.state) },
  { header: "Where", words: true, className: "text-ink-2", cell: (r) => (r.state === "running" ? r.by : "") },
  { header: "What to know", words: true, className: "text-ink-2", cell: whatToKnow },
  { header: <Unseen>Acts</Unseen>, words: true, cell: (r) => (r.state === "interrupted" ? null : <RunControls run={r} />) },
];

function whatToKnow(r: QueueRow): string {
  const begun = r.attempt > 1 ? `begun ${r.attempt} times` : "";
  const kept = r.kept && r.state !== "running" ? "goes on from its checkpoint" : "";
  return [r.failure, begun, kept].filter(Boolean).join("; ");
}
