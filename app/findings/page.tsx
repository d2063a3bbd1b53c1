import Link from "next/link";
import { store } from "@/server/db/store";
import { listCases } from "@/server/repositories/cases";
import { listFindings } from "@/server/repositories/findings";
import { StateMark } from "@/ui/shell/StateMark";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Findings" };

export default async function FindingsPage() {
  const opened = await store();
  const cases = new Map((await listCases(opened.db)).map((c) => [c.id, c.title]));
  const findings = (await listFindings(opened.db)).filter((f) => cases.has(f.caseId));
  return (
    <PageShell opened={opened}>
      <main id="main" className="max-w-[900px] px-6 py-4">
        <h1>Findings</h1>
        <p className="text-[12px] text-ink-3">What is off, what is suspected, what was changed, which run shows it cured.</p>
        {findings.length === 0 ? <p className="mt-4 text-ink-2">None yet. Findings are written on the Verdict page of a case.</p> : null}
        {findings.map((f) => (
          <article key={f.id} className="mt-3 border-t border-line pt-2">
            <h3 className="flex items-center gap-2">
              <StateMark state={f.curedBy ? "holds" : "fails"} plain />
              <Link href={`/cases/${f.caseId}/verdict`}>{f.title}</Link>
              <span className="font-normal text-ink-3">
                {f.curedBy ? "cured" : "open"}, {cases.get(f.caseId)}
              </span>
            </h3>
            <p className="text-[12.5px] text-ink-2">{f.what}</p>
          </article>
        ))}
      </main>
    </PageShell>
  );
}
