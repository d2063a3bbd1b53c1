import { z } from "zod";
import { store } from "@/server/db/store";
import { earlierEntries, timeLine } from "@/server/usecases/timeLine";
import { TimeLine } from "@/ui/timeLine/TimeLine";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Time line" };

export default async function TimeLinePage({ searchParams }: { searchParams: Promise<{ case?: string; before?: string }> }) {
  const opened = await store();
  const asked = await searchParams;
  const caseId = z.uuid().safeParse(asked.case).data;
  const before = z.coerce.number().int().min(1).safeParse(asked.before).data;
  return (
    <PageShell opened={opened}>
      <TimeLine entries={await timeLine(opened, { caseId, before })} earlier={caseId ? await earlierEntries(opened, caseId) : []} caseId={caseId} />
    </PageShell>
  );
}
