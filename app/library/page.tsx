import "katex/dist/katex.min.css";
import { conditionsOf } from "@/core/problems/describe/conditions";
import { store } from "@/server/db/store";
import { caseNames } from "@/server/repositories/boardRows";
import { openCase } from "@/server/usecases/evidence";
import { Library } from "@/ui/library/Library";
import { PageShell } from "../PageShell";
import { askingCase } from "../pageData";

export const dynamic = "force-dynamic";
export const metadata = { title: "Library of solutions" };

export default async function LibraryPage({ searchParams }: { searchParams: Promise<{ s?: string; case?: string }> }) {
  const opened = await store();
  const { s, case: caseId } = await searchParams;
  const cases = await caseNames(opened.db);
  const known = cases.find((c) => c.id === caseId);
  const book = known ? await openCase(opened, known.id) : undefined;
  return (
    <PageShell opened={opened}>
      <Library
        cases={cases.map((c) => [c.id, c.title] as const)}
        asking={book && askingCase(book)}
        conditions={book && conditionsOf(book.row.setup)}
        chosen={s}
      />
    </PageShell>
  );
}
