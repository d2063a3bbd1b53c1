"use client";

import { useState } from "react";
import { FormProvider } from "react-hook-form";
import { parameterSpecs } from "@/core/problems/describe/caseSetup";
import { entryOf, KindEntry, kindOf, type NamedKind, useEntries } from "../../forms/entries";
import type { QuestionView } from "../../view";

interface Typed extends NamedKind {
  readonly formula: string;
  readonly unit: string;
  readonly limit: string;
}

const EMPTY: Typed = { name: "", formula: "", unit: "", limit: "5 %", kind: undefined };
const Entry = entryOf<Typed>();

/** A quantity worked out from others by a formula. */
export function AddDerived({ view }: { view: QuestionView }) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <button type="button" className="btn quiet mt-3" onClick={() => setOpen(true)}>
        Work out a quantity
      </button>
    );
  return <DerivedEntries view={view} close={() => setOpen(false)} />;
}

function DerivedEntries({ view, close }: { view: QuestionView; close: () => void }) {
  const { form, save, busy } = useEntries<Typed>(EMPTY);
  const add = async () => {
    const typed = form.getValues();
    const input = { ...typed, kind: kindOf(typed) };
    if (await save("POST /cases/{id}/derived", { at: { id: view.id }, input }, "It is worked out of every run.")) close();
  };
  return (
    <FormProvider {...form}>
      <fieldset className="mt-3 max-w-[860px] border-line border-t pt-2">
        <legend className="pr-2 font-[600] text-[12.5px]">Work out a quantity</legend>
        <div className="grid grid-cols-[1.4fr_2fr_0.8fr_1fr_0.8fr] items-end gap-2">
          <Entry name="name" label="Name" words />
          <Entry name="formula" label="Formula" placeholder="q1 * q2 / q3" />
          <Entry name="unit" label="Unit, 1 for none" />
          <KindEntry />
          <Entry name="limit" label="Limit" />
        </div>
        <p className="mt-1 text-[11.5px] text-ink-3">
          Names: {namesOf(view).join(", ")}. Signs + - * / ^, sqrt, abs, exp, log, sin, cos, tan, min, max, pi. Units are checked.
        </p>
        <div className="mt-2 flex gap-2">
          <button type="button" className="btn" disabled={busy} onClick={() => void add()}>
            Work it out
          </button>
          <button type="button" className="btn quiet" onClick={close}>
            Leave it
          </button>
        </div>
      </fieldset>
    </FormProvider>
  );
}

/** What a formula may name, with its unit. */
function namesOf(view: QuestionView): string[] {
  const names = [
    ...view.evidence.quantities.map((q) => [q.key, q.unit] as const),
    ...parameterSpecs(view.setup.problemId).flatMap((s) => (s.choices ? [] : [[s.key, s.unit] as const])),
  ];
  return names.map(([n, u]) => `${n}${u && u !== "1" ? ` (${u})` : ""}`);
}
