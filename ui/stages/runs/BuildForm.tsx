"use client";

import { FormProvider } from "react-hook-form";
import type { Input } from "../../api/call";
import { entryOf, useEntries } from "../../forms/entries";
import { FormEnd } from "../../forms/FormEnd";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { RunView } from "../../view";

type Typed = Required<Input<"PUT /runs/{id}/build">>;
const Entry = entryOf<Typed>();

/** Which build of its code made a brought-in run: versions are what rounds are told apart by. */
export function BuildForm({ run, done }: { run: RunView; done: () => void }) {
  const { form, save, busy } = useEntries<Typed>({ version: "", options: "", compiler: "", machine: "", ...run.build });
  const own = useFocusOnOpen<HTMLFormElement>();
  const put = form.handleSubmit(async (input) => {
    if (await save("PUT /runs/{id}/build", { at: { id: run.id }, input }, `The build of ${run.label} is kept.`)) done();
  });
  return (
    <FormProvider {...form}>
      <form
        ref={own}
        className="mt-3 grid max-w-[980px] grid-cols-[1fr_1.4fr_1fr_1fr_auto] items-end gap-2 border border-line bg-margin p-2"
        onSubmit={put}
      >
        <p className="col-span-5 text-[12px] text-ink-2">
          Which build of {run.code} made {run.label}. Meshes of two versions are no family; runs of two versions on one mesh are rounds.
        </p>
        <Entry name="version" label="Version" words />
        <Entry name="options" label="Options" words />
        <Entry name="compiler" label="Compiler" words />
        <Entry name="machine" label="Machine" words />
        <span className="flex gap-2">
          <FormEnd leave={done} off={busy}>
            Keep it
          </FormEnd>
        </span>
      </form>
    </FormProvider>
  );
}
