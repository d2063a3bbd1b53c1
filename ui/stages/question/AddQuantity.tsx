"use client";

import { FormProvider } from "react-hook-form";
import { entryOf, KindEntry, kindOf, type NamedKind, useEntries } from "../../forms/entries";

interface Typed extends NamedKind {
  readonly unit: string;
  readonly limit: string;
}

const EMPTY: Typed = { name: "", unit: "", limit: "5 %", kind: undefined };
const Entry = entryOf<Typed>();

/** A quantity that files bring. */
export function AddQuantity({ id }: { id: string }) {
  const { form, save, busy } = useEntries<Typed>(EMPTY);
  const add = async () => {
    const typed = form.getValues();
    const input = { ...typed, kind: kindOf(typed) };
    if (await save("POST /cases/{id}/quantities", { at: { id }, input }, "The quantity was added.")) form.reset(EMPTY);
  };
  return (
    <FormProvider {...form}>
      <div className="mt-3 grid max-w-[860px] grid-cols-[2fr_1fr_1.2fr_1fr_auto] items-end gap-2">
        <Entry name="name" label="Another quantity" words />
        <Entry name="unit" label="Unit, 1 for none" />
        <KindEntry />
        <Entry name="limit" label="Limit" />
        <button type="button" className="btn quiet" disabled={busy} onClick={() => void add()}>
          Add quantity
        </button>
      </div>
    </FormProvider>
  );
}
