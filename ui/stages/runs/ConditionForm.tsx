"use client";

import { FormProvider, useWatch } from "react-hook-form";
import { parameterSpecs } from "@/core/problems/describe/caseSetup";
import type { Input } from "../../api/call";
import { entryOf, useEntries } from "../../forms/entries";
import { FormEnd } from "../../forms/FormEnd";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { RunsView, RunView } from "../../view";

type Typed = Required<Input<"PUT /runs/{id}/condition">>;
const Entry = entryOf<Typed>();
const OWN = "";

/** A condition a brought-in run was made at where it is not the case's: with others it is then a curve over that condition. */
export function ConditionForm({ view, run, done }: { view: RunsView; run: RunView; done: () => void }) {
  const specs = parameterSpecs(view.setup.problemId).filter((s) => !s.choices);
  const named = view.sweeps.flatMap((s) => s.axes.filter((a) => a.key.startsWith("own-")));
  const { form, save, busy } = useEntries<Typed>({
    key: specs[0]?.key ?? OWN,
    name: named[0]?.label ?? "",
    unit: named[0]?.unit ?? "",
    value: "",
    also: [],
  });
  const own = useFocusOnOpen<HTMLFormElement>();
  const others = view.runs.filter((r) => r.id !== run.id && r.origin === "brought-in" && r.state === "done");
  const key = useWatch({ control: form.control, name: "key" });
  const put = form.handleSubmit(async (input) => {
    const count = input.also.length;
    const said = count
      ? `${run.label} and ${count} more are places of a curve now; they are no longer among the case's own meshes.`
      : `${run.label} is a place of a curve now; it is no longer one of the case's own meshes.`;
    if (await save("PUT /runs/{id}/condition", { at: { id: run.id }, input: key === OWN ? input : { ...input, name: "" } }, said)) done();
  });
  return (
    <FormProvider {...form}>
      <form ref={own} className="mt-3 grid max-w-[860px] grid-cols-5 items-end gap-2 border border-line bg-margin p-2" onSubmit={put}>
        <p className="col-span-5 text-[12px] text-ink-2">
          Where {run.label} was made at another condition than the case's, it is a place of a curve over that condition, and no mesh of the case.
        </p>
        <Entry name="key" label="Condition" choices={[...specs.map((s) => [s.key, s.label] as const), [OWN, "condition of its own name"] as const]} />
        {key === OWN ? (
          <>
            <Entry name="name" label="Its name" placeholder="volume flow" words />
            <Entry name="unit" label="Unit" placeholder="m^3/s" />
          </>
        ) : null}
        <Entry name="value" label="Its value there" />
        {others.length ? (
          <fieldset className="col-span-5 order-last text-[12px] text-ink-2">
            <legend>Made there too, such as the other meshes of its family</legend>
            <span className="flex flex-wrap gap-x-4 gap-y-1">
              {others.map((r) => (
                <label key={r.id} className="flex items-center gap-1.5">
                  <input type="checkbox" value={r.id} {...form.register("also")} /> {r.label}
                </label>
              ))}
            </span>
          </fieldset>
        ) : null}
        <span className="flex gap-2">
          <FormEnd leave={done} off={busy}>
            It was made there
          </FormEnd>
        </span>
      </form>
    </FormProvider>
  );
}
