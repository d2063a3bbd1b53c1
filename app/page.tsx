import { store } from "@/server/db/store";
import { findProgramme, listCases } from "@/server/repositories/cases";
import { openCase } from "@/server/usecases/evidence";
import { Board } from "@/ui/Board";
import { Keys } from "@/ui/parts/Keys";
import { TopBar } from "@/ui/parts/TopBar";
import { places, plate } from "./pageData";

export const dynamic = "force-dynamic";

export default async function BoardPage() {
  const opened = await store();
  const cases = await listCases(opened.db);
  const rows = [];
  for (const c of cases) {
    const { assessment, evidence, findings } = await openCase(opened, c.id);
    rows.push({
      id: c.id,
      title: c.title,
      kind: c.kind,
      problemId: c.setup.problemId,
      leading: evidence.quantities[0]?.name ?? "no quantity yet",
      board: assessment.board,
      rule: assessment.rules[0],
      verdicts: assessment.verdicts.map((v) => v.state),
      openFindings: findings.filter((f) => !f.curedBy).length,
    });
  }
  return (
    <div className="flex min-h-screen min-w-[1180px] flex-col">
      <TopBar programme={(await findProgramme(opened.db))?.name ?? ""} {...(await plate(opened))}>
        <Keys places={await places(opened)} />
      </TopBar>
      <Board rows={rows} />
    </div>
  );
}
