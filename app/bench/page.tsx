import { store } from "@/server/db/store";
import { bench } from "@/server/jobs/bench";
import { listCases } from "@/server/repositories/cases";
import { readSetting, runsInState, waitingRuns } from "@/server/repositories/runs";
import { CoresForm } from "@/ui/queue/CoresForm";
import { QueueTable } from "@/ui/queue/QueueTable";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Bench" };

export default async function BenchPage() {
  const opened = await store();
  const runs = [
    ...(await runsInState(opened.db, ["running"])),
    ...(await waitingRuns(opened.db)),
    ...(await runsInState(opened.db, ["paused", "interrupted"])),
  ];
  const holders = new Map((await bench()).holders.map((h) => [h.runId, h.by]));
  const cases = new Map((await listCases(opened.db)).map((c) => [c.id, c.title]));
  const shown = runs.filter((r) => cases.has(r.caseId));
  return (
    <PageShell opened={opened}>
      <main id="main" className="px-6 py-4">
        <h1>Bench</h1>
        <p className="text-[12px] text-ink-3">Runs of the built-in solver, and how much of the machine they may take.</p>
        <CoresForm cores={Number((await readSetting(opened.db, "cores")) ?? 1)} />
        <p className="mt-3 max-w-[78ch] text-[12.5px] text-ink-2">
          Another machine helps when it runs <code className="font-mono">npm run bench-node -- address</code> with the secret kept in{" "}
          <code className="font-mono">bench-secret</code> of the data folder. Runs are leased: one whose process or machine is lost goes on from its
          last checkpoint.
        </p>
        {shown.length === 0 ? (
          <p className="mt-5 max-w-[52ch] border-l-2 border-tin pl-4 text-ink-2">
            Nothing runs, waits or was interrupted. Start a family on the Meshes page of a case.
          </p>
        ) : (
          <QueueTable
            rows={shown.map((r) => ({
              id: r.id,
              label: r.label,
              caseId: r.caseId,
              title: cases.get(r.caseId) ?? "",
              state: r.state,
              priority: r.priority,
              attempt: r.attempt,
              by: holders.get(r.id) ?? r.leasedBy,
              kept: r.checkpoint !== null,
              failure: r.failure,
            }))}
          />
        )}
      </main>
    </PageShell>
  );
}
