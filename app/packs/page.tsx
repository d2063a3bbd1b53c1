import { store } from "@/server/db/store";
import { Packs } from "@/ui/packs/Packs";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Evidence packs" };

export default async function PacksPage() {
  return (
    <PageShell opened={await store()}>
      <Packs />
    </PageShell>
  );
}
