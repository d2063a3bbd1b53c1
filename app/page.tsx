import { store } from "@/server/db/store";
import { currentProgramme } from "@/server/repositories/programmes";
import { boardView } from "@/server/usecases/board";
import { Board } from "@/ui/board/Board";
import { PageShell } from "./PageShell";

export const dynamic = "force-dynamic";

/** rows that come with the page; the others are fetched by it */
const FIRST = 16;

export default async function BoardPage() {
  const opened = await store();
  const programme = await currentProgramme(opened.db);
  const { rows, ...rest } = await boardView(opened, undefined, programme?.id);
  const first = { ...rest, waiting: rest.waiting.slice(0, FIRST), rows: rows.slice(0, FIRST) };
  return (
    <PageShell opened={opened}>
      <Board key={programme?.id} programme={programme?.name ?? ""} first={first} whole={rows.length <= FIRST && rest.waiting.length === 0} />
    </PageShell>
  );
}
