import type { Metadata } from "next";
import Link from "next/link";
import { notFound } from "next/navigation";
import { type ComponentType, cache } from "react";
import { z } from "zod";
import { places, VIEWS, type ViewOf } from "@/app/pageData";
import { restsOnRuns } from "@/core/assessment/registry";
import { STAGES, type Stage } from "@/core/assessment/results/stage";
import { plural } from "@/core/assessment/stages/part";
import { codeWords } from "@/core/records/build";
import { store } from "@/server/db/store";
import type { CaseBook } from "@/server/usecases/caseBook";
import { openCase } from "@/server/usecases/evidence";
import { UseCaseError } from "@/server/usecases/failure";
import { OriginOf } from "@/ui/charts/FigureOrigin";
import { BringUpToDate } from "@/ui/shell/BringUpToDate";
import { CaseHead } from "@/ui/shell/CaseHead";
import { Keys } from "@/ui/shell/Keys";
import { MarginColumn } from "@/ui/shell/MarginColumn";
import { Rail } from "@/ui/shell/Rail";

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ q?: string | string[] }>;
}

const read = cache(async (id: string): Promise<CaseBook> => {
  if (!z.uuid().safeParse(id).success) notFound();
  return openCase(await store(), id).catch((error) => {
    if (error instanceof UseCaseError && error.code === "not-found") notFound();
    throw error;
  });
});

/** The page of one stage. Every stage has a route of its own, so that a page loads the code of its own sheet alone. */
export function stagePage<S extends Stage>(stage: S, Sheet: ComponentType<{ view: ViewOf<S> }>) {
  return async function StagePage({ params, searchParams }: Props) {
    const { id } = await params;
    const book = await read(id);
    const asked = (await searchParams).q;
    const keys = book.evidence.quantities.map((q) => q.key);
    const quantityKey = typeof asked === "string" && keys.includes(asked) ? asked : (keys[0] ?? "");
    const view = VIEWS[stage](book, { stage, quantityKey }) as ViewOf<S>;
    const stages = STAGES.map((s) => `/cases/${id}/${s}?q=${encodeURIComponent(quantityKey)}`);
    return (
      <div className="flex h-screen min-w-[1000px] flex-col">
        <CaseHead view={view}>
          <Keys places={places({ id, title: view.title })} stages={stages} quantities={{ current: quantityKey, all: keys }} />
        </CaseHead>
        <div className="flex min-h-0 flex-1">
          <Rail stages={view.assessment.stages} current={stage} id={id} quantityKey={quantityKey} />
          <main id="main" className="sheet relative min-w-0 flex-1 overflow-auto bg-sheet px-6 py-4" tabIndex={-1}>
            {book.damaged.map((sentence) => (
              <p key={sentence} role="alert" className="mb-3 border-l-2 border-pointer pl-3 text-[12.5px]">
                {sentence} What follows does without it.
              </p>
            ))}
            {view.assessment.stale && restsOnRuns(stage) ? (
              <div className="mb-3 border-l-2 border-dashed border-ink-2 pl-3 text-[12.5px] text-ink-2">
                <p>The runs were made with an earlier set-up. What follows is what they said.</p>
                <BringUpToDate id={id} />
              </div>
            ) : null}
            <OriginOf said={restsOn(book)}>
              <Sheet view={view} />
            </OriginOf>
            <RestsOnLine book={book} />
          </main>
          {view.margin ? <MarginColumn margin={view.margin} id={id} quantityKey={quantityKey} stage={stage} /> : null}
        </div>
      </div>
    );
  };
}

/** What everything on a page of a case rests on, by name and hash. */
function restsOn({ evidence, assessment, evidenceHash }: CaseBook): string {
  const code = evidence.runs.find((r) => r.id === assessment.ladder[0])?.code;
  const runs = assessment.ladder.length;
  const parts = [
    `set-up ${evidence.setupHash.slice(0, 8)}`,
    runs ? `${plural(runs, "run")} of ${codeWords(code ?? "")}${assessment.stale ? " made with an earlier one" : ""}` : "no run yet",
    plural(evidence.yardsticks.length, "yardstick"),
    ...(evidence.settlements?.length ? [`${evidence.settlements.length} settled by hand`] : []),
  ];
  return `${parts.join(", ")}; all of it is evidence ${evidenceHash.slice(0, 16)}`;
}

function RestsOnLine({ book }: { book: CaseBook }) {
  return (
    <p className="mt-8 border-t border-line pt-1.5 text-[11.5px] text-ink-3">
      Rests on {restsOn(book)}.{" "}
      <Link className="link" href={`/cases/${book.row.id}/report`}>
        What rests on what
      </Link>
    </p>
  );
}

/** The words in the browser's tab. */
export const stageTitle =
  (stage: Stage) =>
  async ({ params }: Props): Promise<Metadata> => ({ title: `${(await read((await params).id)).row.title}: ${stage}` });
