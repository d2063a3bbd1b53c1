import Link from "next/link";
import { store } from "@/server/db/store";
import { listCases } from "@/server/repositories/cases";
import { readSetting, runsInState } from "@/server/repositories/runs";
import { CoresForm } from "@/ui/CoresForm";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Bench" };

export default async function BenchPage() {
  const opened = await store();
  const runs = await runsInState(opened.db, ["running", "waiting", "interrupted"]);
  const cases = new Map((await listCases(opened.db)).map((c) => [c.id, c.title]));
  const shown = runs.filter((r) => cases.has(r.caseId));
  return (
    <PageShell opened={opened}>
      <main className="px-6 py-4">
        <h1>Bench</h1>
        <p className="text-[12px] text-ink-3">Runs of the built-in solver, and how much of the machine they may take.</p>
        <CoresForm cores={Number((await readSetting(opened.db, "cores")) ?? 1)} />
        {shown.length === 0 ? (
          <p className="mt-5 max-w-[52ch] border-l-2 border-tin pl-4 text-ink-2">
            Nothing runs, waits or was interrupted. Start a family on the Meshes page of a case.
          </p>
        ) : (
          <table className="mt-4 max-w-[900px]">
            <thead>
              <tr>
                <th>Run</th>
                <th className="w">Case</th>
                <th className="w">State</th>
                <th className="w">What to know</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((r) => (
                <tr key={r.id}>
                  <td>{r.label}</td>
                  <td className="w">
                    <Link className="link" href={`/cases/${r.caseId}/runs`}>
                      {cases.get(r.caseId)}
                    </Link>
                  </td>
                  <td className="w">{r.state === "waiting" ? "waits" : r.state}</td>
                  <td className="w text-ink-2">{r.failure ?? ""}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
    </PageShell>
  );
}
