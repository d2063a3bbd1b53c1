"use client";

import { useState } from "react";
import type { FluxReading } from "@/core/intake/quantityImport";
import { call, Refused } from "../api/call";
import { Field } from "../parts/Field";
import { useFocusOnOpen } from "../parts/useFocusOnOpen";
import type { CaseView, RunView } from "../view";
import { type QuantitiesPreview, QuantityRows, SIGN_WORDS } from "./QuantityRows";
import { rowChoices } from "./roleChoices";
import { useSave } from "./useSave";

/** Values and flows from a table, added to a run that was brought in before. */
export function AddToRun({ view, run, done }: { view: CaseView; run: RunView; done: () => void }) {
  const { save, busy } = useSave();
  const [file, setFile] = useState<{ name: string; text: string }>();
  const [found, setFound] = useState<QuantitiesPreview>();
  const [roles, setRoles] = useState<readonly string[]>([]);
  const [units, setUnits] = useState<readonly string[]>([]);
  const [form, setForm] = useState<{ signs: FluxReading["signs"]; factor: string; replace: boolean }>({
    signs: "outward",
    factor: "1",
    replace: false,
  });
  const [mistake, setMistake] = useState("");
  const own = useFocusOnOpen<HTMLElement>();
  const choose = async (chosen: File | undefined) => {
    setMistake("");
    setFound(undefined);
    if (!chosen) return;
    const sent = { name: chosen.name, text: await chosen.text() };
    setFile(sent);
    try {
      const answer = await call("POST /cases/{id}/preview", {
        at: { id: view.id },
        input: {
          history: null,
          quantities: sent,
        },
      });
      if (!answer.quantities) return setMistake(answer.problems.map((p) => `${sent.name}, line ${p.line}: ${p.sentence}`).join(" "));
      setFound(answer.quantities);
      setRoles(answer.quantities.roles);
      setUnits(answer.quantities.rows.map((r) => r.unit ?? ""));
    } catch (error) {
      setMistake(error instanceof Refused ? error.message : String(error));
    }
  };
  const add = async () => {
    if (!file) return;
    const body = {
      quantities: file,
      rowRoles: roles,
      rowUnits: units.map((u) => u.trim() || null),
      fluxes: { signs: form.signs, factor: Number(form.factor) || 1 },
      replace: form.replace,
    };
    if (await save("POST /runs/{id}/add", { at: { id: run.id }, input: body }, `${run.label} was added to.`)) done();
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
        onChange={(e) => void choose(e.target.files?.[0])}
      />
      {mistake ? <p className="mistake mt-1">{mistake}</p> : null}
      {found ? (
        <>
          <QuantityRows
            preview={found}
            roles={roles}
            change={setRoles}
            units={units}
            changeUnits={setUnits}
            choices={rowChoices(view.evidence.quantities)}
          />
          {roles.some((r) => r.startsWith("boundary-")) ? (
            <div className="mt-2 grid max-w-[560px] grid-cols-2 gap-3">
              <Field
                label="Flows through boundaries are counted"
                words
                value={form.signs}
                onChange={(signs) => setForm({ ...form, signs })}
                choices={SIGN_WORDS}
              />
              <Field label="Equal parts in the whole" value={form.factor} onChange={(factor) => setForm({ ...form, factor })} />
            </div>
          ) : null}
          <label className="mt-2 flex items-center gap-2">
            <input type="checkbox" checked={form.replace} onChange={(e) => setForm({ ...form, replace: e.target.checked })} /> replace what the run
            has already
          </label>
        </>
      ) : null}
      <span className="mt-2 flex gap-2">
        <button type="button" className="btn" disabled={busy || !found} onClick={() => void add()}>
          Add to the run
        </button>
        <button type="button" className="btn quiet" onClick={done}>
          Leave it
        </button>
      </span>
    </section>
  );
}
