"use client";

import { FormProvider } from "react-hook-form";
import type { Input } from "../../api/call";
import { entryOf, useEntries } from "../../forms/entries";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { YardsticksView } from "../../view";

type Typed = Input<"POST /cases/{id}/yardsticks">;

const Entry = entryOf<Typed>();
const KINDS = [
  ["measured", "measured"],
  ["table", "published value"],
  ["other-code", "another code's result"],
] as const;

/** A measured or published value of one's own, with where it comes from. */
export function AddYardstick({ view, done }: { view: YardsticksView; done: () => void }) {
  const { quantityKey: key } = view;
  const empty: Typed = { name: "", kind: "measured", source: "", validity: "", quantityKey: key, value: "", uncertainty: "", answers: {} };
  const inputs = view.evidence.inputs ?? [];
  const { form, save, busy } = useEntries<Typed>(empty);
  const own = useFocusOnOpen<HTMLFormElement>();
  const add = form.handleSubmit(async (input) => {
    if (await save("POST /cases/{id}/yardsticks", { at: { id: view.id }, input }, "The yardstick was added.")) done();
  });
  return (
    <FormProvider {...form}>
      <form ref={own} className="mb-5 grid grid-cols-3 gap-2 border border-line bg-margin p-3" onSubmit={add}>
        <Entry name="name" label="Name" words />
        <Entry name="kind" label="Kind" choices={KINDS} />
        <Entry name="quantityKey" label="Quantity" choices={view.evidence.quantities.map((q) => [q.key, q.name])} />
        <Entry name="value" label="Value, any unit" />
        <Entry name="uncertainty" label="Uncertainty at 95 %, or empty" placeholder="8 mm or 2 %" />
        <Entry name="validity" label="Where it holds" words />
        <div className="col-span-2">
          <Entry name="source" label="Source" words />
        </div>
        {inputs.length ? (
          <fieldset className="col-span-3 grid grid-cols-3 gap-2">
            <legend className="col-span-3 text-[12px] text-ink-2">
              Where it was worked out with a condition that the case was given as well: percent by which it changes with one percent of the condition,
              such as −2 for what was divided by the velocity squared. Its uncertainty above is then without that part.
            </legend>
            {inputs.map((i) => (
              <Entry
                key={i.key}
                name={`answers.${i.key}`}
                mistake={`answer-${i.key}`}
                label={`${i.label}, % a %`}
                placeholder="empty where it is independent"
              />
            ))}
          </fieldset>
        ) : null}
        <div className="flex items-end justify-end">
          <button type="submit" className="btn" disabled={busy}>
            Add yardstick
          </button>
        </div>
      </form>
    </FormProvider>
  );
}
