import { store } from "@/server/db/store";
import { acrossCases } from "@/server/usecases/board";
import { Across } from "@/ui/across/Across";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Quantities" };

export default async function QuantitiesPage({ searchParams }: { searchParams: Promise<{ of?: string; case?: string }> }) {
  const opened = await store();
  const { of, case: caseId } = await searchParams;
  const { lines, waiting } = await acrossCases(opened);
  return (
    <PageShell opened={opened}>
      <Across lines={lines} waiting={waiting.length} of={of} caseId={caseId} />
    </PageShell>
  );
}
