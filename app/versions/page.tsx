import { store } from "@/server/db/store";
import { roundsView } from "@/server/usecases/rounds";
import { RoundsBoard } from "@/ui/rounds/RoundsBoard";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Code versions" };

export default async function VersionsPage({ searchParams }: { searchParams: Promise<{ code?: string }> }) {
  const opened = await store();
  const { code } = await searchParams;
  return (
    <PageShell opened={opened}>
      <RoundsBoard view={await roundsView(opened, code)} />
    </PageShell>
  );
}
