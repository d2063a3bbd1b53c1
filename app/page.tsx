import { store } from "@/server/db/store";
import { listCases } from "@/server/repositories/cases";
import { type CaseBook, openEach } from "@/server/usecases/evidence";
import { Board } from "@/ui/board/Board";
import { PageShell } from "./PageShell";

export const dynamic = "force-dynamic";

const boardRow = ({ row, assessment, evidence, findings, damaged }: CaseBook) => ({
  id: row.id,
  title: row.title,
  kind: row.kind,
  leading: evidence.quantities[0]?.name ?? "no quantity yet",
  board: assessment.board,
  rule: assessment.rules[0],
  verdicts: assessment.verdicts.map((v) => v.state),
  openFindings: findings.filter((f) => !f.curedBy).length,
  damaged: damaged.length > 0,
});

export default async function BoardPage() {
  const opened = await store();
  const cases = await listCases(opened.db);
  const found = await openEach(
    opened,
    cases.map((c) => c.id),
  );
  const broken = found.flatMap((f) => ("sentence" in f ? [{ id: f.row.id, title: f.row.title, sentence: f.sentence }] : []));
  const rows = found.flatMap((f) => ("sentence" in f ? [] : [boardRow(f)]));
  return (
    <PageShell opened={opened}>
      <Board rows={rows} broken={broken} />
    </PageShell>
  );
}
