"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { FormProvider, useFormContext, useWatch } from "react-hook-form";
import { PHYSICS_CHOICES, parameterSpecs } from "@/core/problems/describe/caseSetup";
import { DESCRIPTIONS, described } from "@/core/problems/describe/catalogue";
import type { ProblemDescription } from "@/core/problems/describe/problem";
import { MeshDrawing } from "../charts/MeshDrawing";
import { KindEntry, Mistake, useEntries } from "../forms/entries";
import { NewCaseEntry as Entry, FROM_FILES, inputOf, type NewCaseEntries, parameterBy, startEntries, templateEntries } from "./entries";
import { Templates } from "./Templates";
import { useThumbnails } from "./useThumbnails";

/** A case begins with a template; its figures can be typed in any unit. */
export function NewCase() {
  const router = useRouter();
  const [template, setTemplate] = useState(DESCRIPTIONS[0].id);
  const { form, save, busy } = useEntries<NewCaseEntries>(startEntries(template));
  const thumbnails = useThumbnails();
  const problem = template === FROM_FILES ? undefined : described(template);
  const choose = (id: string) => {
    setTemplate(id);
    form.reset({ ...form.getValues(), ...templateEntries(id) });
  };
  const make = form.handleSubmit(async (typed) => {
    const made = await save("POST /cases", { input: inputOf(template, typed) });
    if (made) router.push(`/cases/${made.id}/question`);
  });
  return (
    <main id="main" tabIndex={-1} className="mx-auto w-full max-w-[1180px] px-6 py-5">
      <FormProvider {...form}>
        <form onSubmit={make}>
          <Head busy={busy} />
          <div className="mt-4 grid grid-cols-[minmax(0,1fr)_260px] gap-6">
            <Templates thumbnails={thumbnails} chosen={template} choose={choose} />
            <div>
              <h2>{problem?.title ?? "Results from another code"}</h2>
              <p className="mt-1 text-[12.5px] text-ink-2">
                {problem?.tests ?? "Histories and quantities are brought in from files and judged like any other run."}
              </p>
              {problem ? <p className="mt-1 text-[12.5px] text-ink-3">{problem.order}</p> : null}
              <div className="mt-3">
                {thumbnails.get(template) ? (
                  <MeshDrawing mesh={thumbnails.get(template)!} width={250} most={150} label={`A coarse mesh of ${problem?.title ?? ""}`} />
                ) : null}
              </div>
            </div>
          </div>
          <div className="mt-4 grid grid-cols-3 gap-3" key={template}>
            <Plain />
            <Conditions problemId={problem ? template : null} />
            {problem ? <OfTemplate problem={problem} /> : <OfFiles />}
          </div>
          <Mistake of="parameters" className="mt-2" />
          {problem?.similarity?.map((q) => (
            <p key={q.key} className="mt-2 text-[12px] text-ink-3">
              {q.note}
            </p>
          ))}
        </form>
      </FormProvider>
    </main>
  );
}

function Head({ busy }: { busy: boolean }) {
  const title = useWatch<NewCaseEntries, "title">({ name: "title" });
  return (
    <div className="flex items-start justify-between">
      <div>
        <h1>New case</h1>
        <p className="text-[12px] text-ink-2">
          What is to be checked, against which truth? A case with all its evidence comes from{" "}
          <Link className="link" href="/packs">
            an evidence pack
          </Link>
          .
        </p>
      </div>
      <button type="submit" className="btn" disabled={busy || title.trim() === ""}>
        Make the case
      </button>
    </div>
  );
}

/** What every case is asked. */
function Plain() {
  return (
    <>
      <div className="col-span-3">
        <Entry name="title" label="Name of the case" words />
      </div>
      <div className="col-span-3">
        <Entry name="purpose" label="Purpose" rows={2} />
      </div>
      <Entry name="fluidName" label="Fluid" words />
      <Entry name="temperature" label="Temperature" />
      <Entry name="pressure" label="Pressure" />
    </>
  );
}

/** What the flow is driven by, in any unit. */
function Conditions({ problemId }: { problemId: string | null }) {
  return parameterSpecs(problemId).map((s) => (
    <Entry
      key={s.key}
      name={`parameters.${s.key}`}
      mistake={s.key}
      label={s.label}
      help={s.help}
      choices={s.choices?.map((c) => [String(c.value), c.name])}
    />
  ));
}

/** The similarity numbers a template's parameters can be set by, and its formulas. */
function OfTemplate({ problem }: { problem: ProblemDescription }) {
  const form = useFormContext<NewCaseEntries>();
  const specs = parameterSpecs(problem.id);
  const setBy = (key: string) => {
    const found = parameterBy(problem.id, key, form.getValues());
    if (found) form.setValue(`parameters.${found.key}`, found.text);
  };
  const called = (key: string) => specs.find((x) => x.key === key)?.label ?? "";
  return (
    <>
      {problem.similarity?.map((q) => (
        <div key={q.key} className="flex items-end gap-2">
          <Entry name={`similarity.${q.key}`} label={`${called(q.sets)} from ${/^[aeio]/i.test(q.label) ? "an" : "a"} ${q.label}`} help={q.note} />
          <button type="button" className="btn quiet" onClick={() => setBy(q.key)}>
            Set
          </button>
        </div>
      ))}
      {problem.formulas?.map((q) => (
        <div key={q.key} className="col-span-3">
          <Entry name={`formulas.${q.key}`} mistake={q.key} label={q.label} help={q.help} />
        </div>
      ))}
    </>
  );
}

/** What another code computed: its first quantity, and what it solved. */
function OfFiles() {
  return (
    <>
      <Entry name="quantityName" label="First quantity" words placeholder="reattachment length" />
      <Entry name="quantityUnit" label="Its unit" placeholder="m" />
      <KindEntry named="quantityName" name="quantityKind" />
      {(["time", "model", "space"] as const).map((key) => (
        <Entry
          key={key}
          name={`physics.${key}`}
          label={{ time: "Time", model: "Flow model", space: "Space" }[key]}
          choices={PHYSICS_CHOICES[key].map((c) => [c, c])}
        />
      ))}
    </>
  );
}
