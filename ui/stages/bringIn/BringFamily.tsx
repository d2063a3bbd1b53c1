"use client";

import { useEffect, useRef, useState } from "react";
import { FormProvider, useWatch } from "react-hook-form";
import { count } from "@/core/formatting/number";
import { dimensionOf, physicsOf } from "@/core/problems/describe/caseSetup";
import { entryOf, useEntries } from "../../forms/entries";
import type { CaseView } from "../../view";
import { FamilyRuns } from "./FamilyRuns";
import { Flows, type FlowWords, fluxesOf } from "./Flows";
import { columnsOf, type FamilyRun, familyInput, type Mapped, type Read, readFile, rowsOf, runsOf } from "./family";
import { Roles } from "./Roles";
import { SIZE_WORDS } from "./RunWords";
import { columnChoices, rowChoices } from "./roleChoices";
import { Problems } from "./Told";

/** Several files at once: records and tables of the runs of one family, guessed from their names, what they share said once. */
export function BringFamily({ view, files, done }: { view: CaseView; files: readonly File[]; done: () => void }) {
  const [read, setRead] = useState<readonly Read[]>();
  const [mistake, setMistake] = useState("");
  useEffect(() => {
    let gone = false;
    Promise.all(files.map((f) => readFile(view.id, f))).then(
      (all) => !gone && setRead(all),
      (error) => !gone && setMistake(error instanceof Error ? error.message : String(error)),
    );
    return () => {
      gone = true;
    };
  }, [files, view.id]);
  if (mistake) return <p className="mistake mt-3">{mistake}</p>;
  if (!read) return <p className="mt-3 text-ink-2">Reading {count(files.length)} files …</p>;
  return <Family view={view} read={read} done={done} />;
}

interface FamilyWords extends FlowWords {
  readonly version: string;
  readonly code: string;
  readonly volume: string;
}

const Entry = entryOf<FamilyWords>();

function Family({ view, read, done }: { view: CaseView; read: readonly Read[]; done: () => void }) {
  const tables = read.filter((r) => r.table);
  const [columns, setColumns] = useState<Record<string, Mapped>>(() => columnsOf(read.filter((r) => r.record)));
  const [rows, setRows] = useState<Record<string, Mapped>>(() => rowsOf(tables));
  const [runs, setRuns] = useState<readonly FamilyRun[]>(() => runsOf(read));
  const code = view.runs.find((r) => r.origin === "brought-in")?.code ?? "";
  const { form, save, busy } = useEntries<FamilyWords>({ code, version: "", volume: "", signs: "outward", factor: "" });
  const named = Boolean(useWatch({ control: form.control, name: "code" }));
  const head = useRef<HTMLHeadingElement>(null);
  useEffect(() => head.current?.focus(), []);
  const { space, share } = physicsOf(view.setup);
  const broken = read.flatMap((r) => r.problems.map((p) => ({ ...p, file: r.name })));
  const flows = [...Object.values(columns), ...Object.values(rows)].some((x) => x.role.startsWith("boundary-"));
  const bring = async () => {
    const words = form.getValues();
    const build = words.version.trim() ? { build: { version: words.version } } : {};
    const input = { code: words.code, ...build, volume: words.volume, fluxes: fluxesOf(words, 1 / share), ...familyInput(read, runs, columns, rows) };
    if (await save("POST /cases/{id}/bring-in-family", { at: { id: view.id }, input }, `${runs.length} runs were brought in.`)) done();
  };
  return (
    <div className="mt-3">
      <h3 ref={head} tabIndex={-1}>
        {count(runs.length)} runs of one family
      </h3>
      <Problems problems={broken} />
      <FamilyRuns runs={runs} change={setRuns} tables={tables.map((t) => t.name)} />
      <Roles title="Columns of the records" entries={columns} change={setColumns} choices={columnChoices(view.evidence.quantities)} />
      <Roles title="Rows of the tables" entries={rows} change={setRows} choices={rowChoices(view.evidence.quantities)} />
      <div className="mt-3 grid max-w-[900px] grid-cols-[1fr_0.7fr_1fr_1.2fr_1fr_auto] items-end gap-2">
        <FormProvider {...form}>
          <Entry name="code" label="Code" words />
          <Entry name="version" label="Its version" words placeholder="not stated" />
          <Entry name="volume" {...SIZE_WORDS[dimensionOf(space)]} />
          {flows ? (
            <Flows placeholder={String(Math.round(1 / share))} />
          ) : (
            <>
              <span />
              <span />
            </>
          )}
        </FormProvider>
        <button type="button" className="btn" disabled={busy || broken.length > 0 || !named} onClick={() => void bring()}>
          Bring in {count(runs.length)} runs
        </button>
      </div>
    </div>
  );
}
