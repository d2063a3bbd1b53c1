"use client";

import { FormProvider } from "react-hook-form";
import { entryOf, useEntries } from "../../forms/entries";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { FindingView, VerdictView } from "../../view";

const BLANK = { title: "", what: "", cause: "", change: "", shownBy: "", curedBy: "" };

type Typed = typeof BLANK;

const Entry = entryOf<Typed>();

const typedOf = ({ title, what, cause, change, shownBy, curedBy }: FindingView): Typed => ({
  title,
  what,
  cause,
  change,
  shownBy: shownBy ?? "",
  curedBy: curedBy ?? "",
});

/** Writes a finding, or changes one. */
export function FindingForm({ view, finding, done }: { view: VerdictView; finding: FindingView | undefined; done: () => void }) {
  const { form, save, busy } = useEntries<Typed>(finding ? typedOf(finding) : BLANK);
  const own = useFocusOnOpen<HTMLFormElement>();
  const runs = [["", "none"] as const, ...view.runs.map((r) => [r.id, `${r.label}, ${r.code}, ${r.createdAt.slice(0, 10)}`] as const)];
  const keep = form.handleSubmit(async (typed) => {
    const input = { ...typed, shownBy: typed.shownBy || null, curedBy: typed.curedBy || null };
    const ok = finding
      ? await save("PUT /findings/{id}", { at: { id: finding.id }, input }, "The finding was saved.")
      : await save("POST /cases/{id}/findings", { at: { id: view.id }, input }, "The finding was written.");
    if (ok) done();
  });
  return (
    <FormProvider {...form}>
      <form ref={own} className="mt-2 grid grid-cols-2 gap-2 border border-line bg-margin p-3" onSubmit={keep}>
        <Entry name="title" label="Name" words />
        <Entry name="what" label="What is off" words />
        <Entry name="cause" label="Suspected cause" words />
        <Entry name="change" label="What was changed" words />
        <Entry name="shownBy" label="Run that shows it" choices={runs} />
        <Entry name="curedBy" label="Run that cures it" choices={runs} />
        <div className="col-span-2 flex justify-end gap-2">
          <button type="button" className="btn quiet" onClick={done}>
            Leave it
          </button>
          <button type="submit" className="btn" disabled={busy}>
            Save finding
          </button>
        </div>
      </form>
    </FormProvider>
  );
}
