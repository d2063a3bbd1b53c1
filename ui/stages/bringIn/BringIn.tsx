"use client";

import { useEffect, useState } from "react";
import { FormProvider, useWatch } from "react-hook-form";
import { dimensionOf, physicsOf } from "@/core/problems/describe/caseSetup";
import { entryOf, useEntries } from "../../forms/entries";
import { Field } from "../../forms/Field";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { CaseView } from "../../view";
import { BringFamily } from "./BringFamily";
import { Chooser } from "./Chooser";
import { Flows, fluxesOf } from "./Flows";
import { Mapping } from "./Mapping";
import { QuantityRows } from "./QuantityRows";
import { Recipes } from "./Recipes";
import { buildWords, cellsOf, noWords, ownSettings, RunWords, type Words } from "./RunWords";
import { rowChoices } from "./roleChoices";
import { Problems, Underway } from "./Told";
import { unitsOf, useMapping } from "./useMapping";
import { useReading } from "./useReading";
import { useTable } from "./useTable";

const Entry = entryOf<Words>();

/** Files of another code, or a log it is still writing, become a run: found, shown, mapped; nothing is stored until confirmed. */
export function BringIn({ view, done }: { view: CaseView; done: () => void }) {
  const [mistake, setMistake] = useState("");
  const [family, setFamily] = useState<readonly File[]>();
  const own = useFocusOnOpen<HTMLElement>();
  const found = useFound(view, setMistake);
  const { discard, reading, choose } = found.read;
  return (
    <section ref={own} className="mb-4 border border-line bg-margin p-4" aria-label="Bring in results">
      <Chooser
        reading={reading}
        choose={(source) => {
          setMistake("");
          if (!source || "file" in source) setFamily(undefined);
          void choose(source);
        }}
        chooseFamily={(files) => {
          setMistake("");
          discard();
          setFamily(files);
        }}
        chooseTable={(file) => void found.table.choose(file)}
      />
      {mistake ? <p className="mistake mt-2">{mistake}</p> : null}
      {family ? <BringFamily key={family.map((f) => f.name).join()} view={view} files={family} done={done} /> : null}
      {reading?.state === "reading" ? <Underway reading={reading} stop={discard} /> : null}
      <FormProvider {...found.entries.form}>
        <Shown view={view} found={found} />
        {found.readable ? <Confirm view={view} found={found} done={done} /> : null}
      </FormProvider>
      <Recipes />
      <p className="mt-2 text-[11.5px] text-ink-3">
        Units may stand in brackets behind a column's name or in a line of their own. Nothing is stored until you confirm.
      </p>
    </section>
  );
}

/** What was chosen and found: a record with its mapping, a table with its rows, what is said of the run, what stands in the way. */
function useFound(view: CaseView, said: (sentence: string) => void) {
  const read = useReading(view.id, said);
  const { reading } = read;
  const mapping = useMapping(view.id, reading, said);
  const table = useTable(view.id, said);
  const entries = useEntries<Words>(noWords(physicsOf(view.setup).share));
  const { getValues, setValue } = entries.form;
  const recipe = reading?.preview?.recipe;
  useEffect(() => {
    if (recipe && !getValues("code")) setValue("code", recipe.code);
  }, [recipe, getValues, setValue]);
  const inRecord = reading?.state === "refused" ? reading.problems : reading?.state === "done" ? mapping.checked.problems : [];
  const standing = [...inRecord.map((x) => ({ ...x, file: reading?.name })), ...table.problems];
  const readable = (reading?.state === "done" || table.preview !== undefined) && !standing.length;
  return { read, mapping, table, entries, standing, readable };
}

type Found = ReturnType<typeof useFound>;

/** What was found, to be looked at and corrected. */
function Shown({ view, found: { read, mapping, table, standing } }: { view: CaseView; found: Found }) {
  const { reading, chooseSheet } = read;
  const preview = reading?.preview;
  const { quantities } = view.evidence;
  return (
    <>
      {reading?.sheets && reading.sheets.length > 1 ? (
        <div className="mt-2 max-w-[240px]">
          <Field
            label="Sheet"
            words
            value={reading.sheet ?? reading.sheets[0]}
            onChange={(s) => void chooseSheet(s)}
            choices={reading.sheets.map((s) => [s, s] as const)}
          />
        </div>
      ) : null}
      <Problems problems={standing} />
      {preview && mapping.mapped.roles.length === preview.header.length ? (
        <>
          {preview.recipe ? <p className="mt-2 text-[12.5px]">Read as the recipe “{preview.recipe.name}” says; change what differs.</p> : null}
          <Mapping
            key={reading.id}
            caseId={view.id}
            readingId={reading.id}
            preview={preview}
            mapped={mapping.mapped}
            change={mapping.setMapped}
            quantities={quantities}
            notes={mapping.checked.notes}
          />
        </>
      ) : null}
      {table.preview ? <QuantityRows {...table} preview={table.preview} choices={rowChoices(quantities)} /> : null}
      {table.flows ? (
        <div className="mt-2 grid max-w-[760px] grid-cols-2 gap-3">
          <Flows parts="The model is one of so many equal parts; flows in the file are of the part" />
        </div>
      ) : null}
    </>
  );
}

/** What is said of the run, and the way in. */
function Confirm({ view, found: { read, mapping, table, entries }, done }: { view: CaseView; found: Found; done: () => void }) {
  const { form, save, busy } = entries;
  const { reading, release } = read;
  const named = useWatch({ control: form.control, name: ["label", "code"] }).every(Boolean);
  const said = (words: Words) => ({
    label: words.label,
    code: words.code,
    cells: cellsOf(words.cells),
    volume: words.volume,
    roles: mapping.mapped.roles,
    units: unitsOf(mapping.mapped),
    ...buildWords(words),
    ...(words.recipe.trim() ? { recipe: words.recipe.trim() } : {}),
  });
  const bring = (words: Words) => {
    const input = {
      ...said(words),
      history: reading?.state === "done" ? { reading: reading.id } : null,
      quantities: table.file ?? null,
      rowRoles: table.roles,
      rowUnits: table.sentUnits,
      own: ownSettings(words),
      fluxes: fluxesOf(words),
    };
    return save("POST /cases/{id}/bring-in", { at: { id: view.id }, input }, `${words.label} was brought in.`);
  };
  const follow = (words: Words, id: string, name: string) =>
    save("POST /cases/{id}/follow", { at: { id: view.id }, input: { ...said(words), reading: id } }, `${words.label} follows ${name}.`);
  const confirm = async () => {
    const words = form.getValues();
    if (!(await (reading?.log ? follow(words, reading.id, reading.name) : bring(words)))) return;
    release();
    done();
  };
  return (
    <>
      <RunWords dimension={dimensionOf(physicsOf(view.setup).space)} />
      <div className="mt-2 flex items-end gap-3">
        {reading?.preview ? (
          <div className="w-[300px]">
            <Entry name="recipe" label="Keep this mapping as a recipe named" words placeholder="not kept" />
          </div>
        ) : null}
        <button type="button" className="btn" disabled={busy || reading?.state === "reading" || !named} onClick={() => void confirm()}>
          {reading?.log ? "Follow as a run" : "Bring in as a run"}
        </button>
      </div>
    </>
  );
}
