import { store } from "@/server/db/store";
import { findProgramme, listCases } from "@/server/repositories/cases";
import { openCases } from "@/server/usecases/evidence";
import { Board } from "@/ui/Board";
import { Keys } from "@/ui/parts/Keys";
import { TopBar } from "@/ui/parts/TopBar";
import { places, plate } from "./pageData";

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
    problemId: row.setup.problemId,
    leading: evidence.quantities[0]?.name ?? "no quantity yet",
    board: assessment.board,
    rule: assessment.rules[0],
    verdicts: assessment.verdicts.map((v) => v.state),
    openFindings: findings.filter((f) => !f.curedBy).length,
  }));
  return (
    <div className="flex min-h-screen min-w-[1180px] flex-col">
      <TopBar programme={(await findProgramme(opened.db))?.name ?? ""} {...(await plate(opened))}>
        <Keys places={await places(opened)} />
      </TopBar>
      <Board rows={rows} />
    </div>
  );
}
