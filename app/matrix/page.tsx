import { store } from "@/server/db/store";
import { currentProgramme } from "@/server/repositories/programmes";
import { acrossCases } from "@/server/usecases/board";
import { Matrix } from "@/ui/programme/Matrix";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Matrix" };

export default async function MatrixPage({ searchParams }: { searchParams: Promise<{ what?: string; of?: string }> }) {
  const opened = await store();
  const { what, of } = await searchParams;
  const programme = await currentProgramme(opened.db);
  const { lines, waiting } = await acrossCases(opened, undefined, programme?.id);
  return (
    <PageShell opened={opened}>
      <Matrix
        lines={lines}
        waiting={waiting.length}
        programme={programme?.name ?? "Programme"}
        what={what === "sources" ? "sources" : "quantities"}
        of={of}
      />
    </PageShell>
  );
}
