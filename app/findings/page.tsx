import { findCause } from "@/core/assessment/verdict/causes";
import { store } from "@/server/db/store";
import { listCases } from "@/server/repositories/cases";
import { listFindings } from "@/server/repositories/findings";
import { currentProgramme } from "@/server/repositories/programmes";
import { labelsOfRuns } from "@/server/repositories/runs";
import { FindingsBoard } from "@/ui/findings/FindingsBoard";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Findings" };

export default async function FindingsPage() {
  const opened = await store();
  const programme = await currentProgramme(opened.db);
  const cases = new Map((await listCases(opened.db)).filter((c) => c.programmeId === programme?.id).map((c) => [c.id, c.title]));
  const own = (await listFindings(opened.db)).filter((f) => cases.has(f.caseId));
  const labels = await labelsOfRuns(
    opened.db,
    own.flatMap((f) => [f.shownBy, f.curedBy]).flatMap((id) => id ?? []),
  );
  const label = (id: string | null) => (id === null ? null : (labels.get(id) ?? "a deleted run"));
  const list = own.map(({ id, caseId, title, what, cause, causeKey, test, change, shownBy, curedBy, severity, owner, createdAt, curedAt }) => ({
    ...{ id, caseId, title, what, cause, test, change, severity, owner },
    caseTitle: cases.get(caseId) ?? "",
    causeName: findCause(causeKey)?.name ?? "",
    shownBy: label(shownBy),
    curedBy: label(curedBy),
    createdAt: createdAt.toISOString(),
    curedAt: curedAt?.toISOString() ?? null,
  }));
  return (
    <PageShell opened={opened}>
      <FindingsBoard list={list} />
    </PageShell>
  );
}
