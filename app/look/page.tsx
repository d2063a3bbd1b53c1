import { store } from "@/server/db/store";
import { findRun } from "@/server/repositories/runs";
import { openCase } from "@/server/usecases/evidence";
import { spaceFilesOf } from "@/server/usecases/spaceFiles";
import { Look } from "@/ui/space/look/Look";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Look in space" };

const list = (words: string | string[] | undefined): string[] => (typeof words === "string" ? [words] : (words ?? []));

export default async function LookPage({ searchParams }: { searchParams: Promise<{ run?: string | string[] }> }) {
  const opened = await store();
  const open = list((await searchParams).run).slice(0, 4);
  const run = open[0] ? await findRun(opened.db, open[0]) : undefined;
  const book = run && (await openCase(opened, run.caseId));
  return (
    <PageShell opened={opened}>
      <Look
        runs={run ? await spaceFilesOf(opened, run.caseId) : []}
        open={open}
        caseTitle={book?.row.title}
        caseId={run?.caseId}
        fluid={run?.settings.parameters ?? {}}
        followed={run?.settings.follow ? { runId: run.id, label: run.label } : undefined}
      />
    </PageShell>
  );
}
