"use client";

import dynamic from "next/dynamic";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { FormProvider } from "react-hook-form";
import { parameterSpecs } from "@/core/problems/describe/caseSetup";
import { described } from "@/core/problems/describe/catalogue";
import { useEntries } from "../../forms/entries";
import { useSave } from "../../forms/useSave";
import { notify } from "../../shell/notify";
import { StageHeader } from "../../shell/StageHeader";
import type { QuestionView } from "../../view";
import { Conditions } from "./Conditions";
import { type Consequence, Consequences } from "./Consequences";
import { FluidState } from "./FluidState";
import { InputUncertainties } from "./InputUncertainties";
import { Purpose } from "./Purpose";
import { Quantities } from "./Quantities";
import type { QuestionEntries } from "./questionEntries";
import { SetupFacts } from "./SetupFacts";
import { Similarity } from "./Similarity";

/** how long what was taken for granted stays to be read */
const SAID_MS = 10_000;

/** Purpose, physics, fluid, conditions and limits; similarity numbers beside what was typed. */
export function QuestionStage({ view }: { view: QuestionView }) {
  const { problemId } = view.setup;
  const specs = parameterSpecs(problemId);
  const problem = problemId === null ? undefined : described(problemId);
  const { form, save, busy } = useEntries<QuestionEntries>(view.entries);
  const [pending, setPending] = useState<{ entries: QuestionEntries; list: readonly Consequence[] }>();
  const store = async (entries: QuestionEntries) => {
    setPending(undefined);
    const answer = await save("PUT /cases/{id}", { at: { id: view.id }, input: entries }, "The question was saved.");
    if (answer?.said.length) notify(`${answer.said.join("; ")}.`, { durationMs: SAID_MS });
  };
  const keep = form.handleSubmit(async (entries) => {
    // What would go stale is said before it does; where nothing would, nothing is asked.
    const found = await save("POST /cases/{id}/consequences", { at: { id: view.id }, input: entries });
    if (!found) return;
    if (found.list.length) setPending({ entries, list: found.list });
    else await store(entries);
  });
  return (
    <FormProvider {...form}>
      <form onSubmit={keep}>
        <StageHeader title="Question" question="Which quantities, at which conditions, against which truth, how close is close enough?">
          <CopyCase view={view} />
          <button type="submit" className="btn" disabled={busy}>
            Save question
          </button>
        </StageHeader>
        {pending ? (
          <Consequences list={pending.list} busy={busy} save={() => void store(pending.entries)} leave={() => setPending(undefined)} />
        ) : null}
        <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-8 gap-y-4">
          <Purpose copiedFrom={view.setup.copiedFrom} problem={problem} />
          <FluidState />
          <Conditions specs={specs} problem={problem} inTime={view.setup.numerics.courant !== undefined} />
          <Similarity view={view} />
          <InputUncertainties view={view} specs={specs} />
          <SetupFacts />
          <Quantities view={view} />
        </div>
      </form>
      {view.assessment.inputs.length ? <InputAnswers view={view} /> : null}
      {problem?.formulas ? <WrittenOut id={view.id} version={view.version} /> : null}
    </FormProvider>
  );
}

// There once an uncertainty was saved.
const InputAnswers = dynamic(() => import("./InputAnswers").then((m) => m.InputAnswers));
// Its typesetting is fetched with the cases that have formulas.
const WrittenOut = dynamic(() => import("./WrittenOut").then((m) => m.WrittenOut));

function CopyCase({ view }: { view: QuestionView }) {
  const router = useRouter();
  const { save, busy } = useSave();
  const copy = async () => {
    const input = { title: `${view.title}, copy`.slice(0, 120) };
    const made = await save("POST /cases/{id}/copy", { at: { id: view.id }, input }, "The case was copied without its runs.");
    if (made) router.push(`/cases/${made.id}/question`);
  };
  return (
    <button type="button" className="btn quiet" disabled={busy} onClick={copy}>
      Copy the case
    </button>
  );
}
