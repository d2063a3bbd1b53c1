"use client";

import { useState } from "react";
import { FormProvider } from "react-hook-form";
import { useEntries } from "../../forms/entries";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { CaseView, RunLine } from "../../view";
import { Flows, type FlowWords, fluxesOf } from "./Flows";
import { QuantityRows } from "./QuantityRows";
import { rowChoices } from "./roleChoices";
import { Problems } from "./Told";
import { useTable } from "./useTable";

/** Values and flows from a table, added to a run that was brought in before. */
export function AddToRun({ view, run, done }: { view: CaseView; run: RunLine; done: () => void }) {
  const { form, save, busy } = useEntries<FlowWords>({ signs: "outward", factor: "1" });
  const [mistake, setMistake] = useState("");
  const [replace, setReplace] = useState(false);
  const table = useTable(view.id, setMistake);
  const own = useFocusOnOpen<HTMLElement>();
  const add = async () => {
    if (!table.file) return;
    const input = { quantities: table.file, rowRoles: table.roles, rowUnits: table.sentUnits, fluxes: fluxesOf(form.getValues()), replace };
    if (await save("POST /runs/{id}/add", { at: { id: run.id }, input }, `${run.label} was added to.`)) done();
  };
  return (
    <section ref={own} className="mb-3 border border-line bg-margin p-3" aria-label={`Add to ${run.label}`}>
      <h3>Add values or flows to {run.label}</h3>
      <label htmlFor="add-file">Quantities: name, value, unit (CSV)</label>
      <input
        id="add-file"
        type="file"
        accept=".csv,.txt,.dat,.tsv"
        className="block text-[12px]"
        onChange={(e) => void table.choose(e.target.files?.[0])}
      />
      {mistake ? <p className="mistake mt-1">{mistake}</p> : null}
      <Problems problems={table.problems} />
      {table.preview ? (
        <>
          <QuantityRows {...table} preview={table.preview} choices={rowChoices(view.evidence.quantities)} />
          {table.flows ? (
            <div className="mt-2 grid max-w-[560px] grid-cols-2 gap-3">
              <FormProvider {...form}>
                <Flows />
              </FormProvider>
            </div>
          ) : null}
          <label className="mt-2 flex items-center gap-2">
            <input type="checkbox" checked={replace} onChange={(e) => setReplace(e.target.checked)} /> replace what the run has already
          </label>
        </>
      ) : null}
      <span className="mt-2 flex gap-2">
        <button type="button" className="btn" disabled={busy || !table.preview} onClick={() => void add()}>
          Add to the run
        </button>
        <button type="button" className="btn quiet" onClick={done}>
          Leave it
        </button>
      </span>
    </section>
  );
}
