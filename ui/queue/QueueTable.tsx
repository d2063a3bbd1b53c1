"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect } from "react";
import type { RunState } from "@/core/records/run";
import { RunControls } from "../stages/runs/RunControls";

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
  return (
    <table className="mt-4 max-w-[1100px]">
      <thead>
        <tr>
          <th>Run</th>
          <th className="w">Case</th>
          <th className="w">State</th>
          <th className="w">Where</th>
          <th className="w">What to know</th>
          <th className="w">
            <span className="sr-only">Acts</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <tr key={r.id}>
            <td>{r.label}</td>
            <td className="w">
              <Link className="link" href={`/cases/${r.caseId}/runs`}>
                {r.title}
              </Link>
            </td>
            <td className="w">{r.state === "waiting" ? "waits" : r.state}</td>
            <td className="w text-ink-2">{r.state === "running" ? r.by : ""}</td>
            <td className="w text-ink-2">
              {[r.failure, r.attempt > 1 ? `begun ${r.attempt} times` : "", r.kept && r.state !== "running" ? "goes on from its checkpoint" : ""]
                .filter(Boolean)
                .join("; ")}
            </td>
            <td className="w">{r.state === "interrupted" ? null : <RunControls run={r} />}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
