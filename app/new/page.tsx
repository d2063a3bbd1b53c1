import { store } from "@/server/db/store";
import { NewCase } from "@/ui/newCase/NewCase";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "New case" };

export default async function NewCasePage() {
  const opened = await store();
  return (
    <PageShell opened={opened}>
      <NewCase />
    </PageShell>
  );
}
