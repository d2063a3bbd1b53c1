import { store } from "@/server/db/store";
import { programmeSummary, programmes } from "@/server/usecases/programmes";
import { Programme } from "@/ui/programme/Programme";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Programme" };

export default async function ProgrammePage() {
  const opened = await store();
  const { list, current } = await programmes(opened);
  const summary = current === undefined ? undefined : await programmeSummary(opened, current);
  return (
    <PageShell opened={opened}>
      <Programme key={current} list={list} current={current} summary={summary} />
    </PageShell>
  );
}
