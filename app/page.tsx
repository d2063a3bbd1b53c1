import { store } from "@/server/db/store";
import { listCases } from "@/server/repositories/cases";
import { openCases } from "@/server/usecases/evidence";
import { Board } from "@/ui/board/Board";
import { PageShell } from "./PageShell";

export const dynamic = "force-dynamic";

export default async function BoardPage() {
  const opened = await store();
  const cases = await listCases(opened.db);
  const books = await openCases(
    opened,
    cases.map((c) => c.id),
  );
  const rows = books.map(({ row, assessment, evidence, findings }) => ({
    id: row.id,
    title: row.title,
    kind: row.kind,
    leading: evidence.quantities[0]?.name ?? "no quantity yet",
    board: assessment.board,
    rule: assessment.rules[0],
    verdicts: assessment.verdicts.map((v) => v.state),
    openFindings: findings.filter((f) => !f.curedBy).length,
  }));
  return (
    <PageShell opened={opened}>
      <Board rows={rows} />
    </PageShell>
  );
}
