import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { cache } from "react";
import { z } from "zod";
import { places, toView } from "@/app/pageData";
import { STAGES, type Stage } from "@/core/assessment/results/stage";
import { store } from "@/server/db/store";
import { type CaseBook, openCase } from "@/server/usecases/evidence";
import { UseCaseError } from "@/server/usecases/failure";
import { CaseHead } from "@/ui/shell/CaseHead";
import { Keys } from "@/ui/shell/Keys";
import { MarginColumn } from "@/ui/shell/MarginColumn";
import { Rail } from "@/ui/shell/Rail";
import { StageSheet } from "@/ui/stages/StageSheet";

export const dynamic = "force-dynamic";

interface Props {
  params: Promise<{ id: string; stage: string }>;
  searchParams: Promise<{ q?: string | string[] }>;
}

const read = cache(async (id: string): Promise<CaseBook> => {
  if (!z.uuid().safeParse(id).success) notFound();
  return openCase(await store(), id).catch((error) => {
    if (error instanceof UseCaseError && error.code === "not-found") notFound();
    throw error;
  });
});

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { id, stage } = await params;
  return { title: `${(await read(id)).row.title}: ${stage}` };
}

export default async function StagePage({ params, searchParams }: Props) {
  const { id, stage } = await params;
  if (!STAGES.includes(stage as Stage)) notFound();
  const book = await read(id);
  const asked = (await searchParams).q;
  const keys = book.evidence.quantities.map((q) => q.key);
  const quantityKey = typeof asked === "string" && keys.includes(asked) ? asked : (keys[0] ?? "");
  const view = toView(book, stage as Stage, quantityKey);
  const stages = STAGES.map((s) => `/cases/${id}/${s}?q=${encodeURIComponent(quantityKey)}`);
  return (
    <div className="flex h-screen min-w-[1000px] flex-col">
      <CaseHead view={view}>
        <Keys places={await places(await store(), { id, title: view.title })} stages={stages} quantities={{ current: quantityKey, all: keys }} />
      </CaseHead>
      <div className="flex min-h-0 flex-1">
        <Rail stages={view.assessment.stages} current={stage} id={id} quantityKey={quantityKey} />
        <main id="main" className="sheet relative min-w-0 flex-1 overflow-auto bg-sheet px-6 py-4" tabIndex={-1}>
          <StageSheet view={view} />
        </main>
        {view.margin ? <MarginColumn margin={view.margin} id={id} quantityKey={quantityKey} /> : null}
      </div>
    </div>
  );
}
