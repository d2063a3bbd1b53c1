"use client";

import { useEffect, useRef, useState } from "react";
import { count, sentenceCase } from "@/core/formatting/number";
import { ownerOf, readFileName } from "@/core/intake/fileNames";
import type { SheetPreview } from "@/core/intake/historyImport";
import type { FluxReading } from "@/core/intake/quantityImport";
import { dimensionOf, physicsOf } from "@/core/problems/describe/caseSetup";
import { call } from "../api/call";
import { Field } from "../parts/Field";
import type { CaseView } from "../view";
import { columnChoices, rowChoices } from "./roleChoices";
import type { Problem } from "./useReading";
import { useSave } from "./useSave";

interface Read {
  readonly name: string;
  readonly text: string;
  readonly record?: SheetPreview;
  readonly table?: { readonly rows: readonly { name: string; value: number; unit?: string }[]; readonly roles: readonly string[] };
  readonly problems: readonly Problem[];
}

/** A file is a table of results where it has the columns name and value; else a record. */
async function readFile(caseId: string, file: File): Promise<Read> {
  const text = await file.text();
  const sent = { name: file.name, text };
  const head = text.slice(0, 2000).toLowerCase();
  const asTable = /(^|\n)\s*"?(name|quantity|what)"?\s*[,;\t]/.test(head) && /[,;\t]\s*"?(value|result)/.test(head);
  const answer = await call("POST /cases/{id}/preview", {
    at: { id: caseId },
    input: asTable ? { history: null, quantities: sent } : { history: sent, quantities: null },
  });
  // A unit that is missing is asked for below; only what cannot be read at all stands in the way.
  const fatal = answer.history || answer.quantities ? [] : answer.problems;
  return { ...sent, record: answer.history as SheetPreview | undefined, table: answer.quantities, problems: fatal };
}

const SIGNS = [
  ["outward", "positive outward"],
  ["inward", "positive inward"],
  ["by-name", "all positive, the name says which way"],
] as const;

/** Several files at once: records and tables of the runs of one family, guessed from their names, what they share said once. */
export function BringFamily({ view, files, done }: { view: CaseView; files: readonly File[]; done: () => void }) {
  const { save, busy } = useSave();
  const [read, setRead] = useState<readonly Read[]>();
  const [mistake, setMistake] = useState("");
  const [columns, setColumns] = useState<Record<string, { role: string; unit: string }>>({});
  const [rows, setRows] = useState<Record<string, { role: string; unit: string }>>({});
  const [runs, setRuns] = useState<readonly { label: string; cells: string; record: string; table: string }[]>([]);
  const [form, setForm] = useState({
    code: view.runs.find((r) => r.origin === "brought-in")?.code ?? "",
    volume: "",
    signs: "outward" as FluxReading["signs"],
    factor: "",
  });
  const head = useRef<HTMLHeadingElement>(null);
  const physics = physicsOf(view.setup);
  const space = dimensionOf(physics.space);

  useEffect(() => {
    let gone = false;
    Promise.all(files.map((f) => readFile(view.id, f)))
      .then((all) => {
        if (gone) return;
        setRead(all);
        const records = all.filter((r) => r.record);
        const tables = all.filter((r) => r.table);
        const named = (records.length ? records : tables).map((r) => ({ ...readFileName(r.name), file: r.name }));
        setColumns(columnsOf(records));
        setRows(rowsOf(tables));
        setRuns(
          named.map((n, k) => ({
            label: n.label,
            cells: n.cells ? String(n.cells) : "",
            record: records.length ? n.file : "",
            table: records.length
              ? (tables.find(
                  (t) =>
                    (tables.length === 1 && named.length === 1
                      ? 0
                      : ownerOf(
                          t.name,
                          named.map((x) => x.label),
                        )) === k,
                )?.name ?? "")
              : n.file,
          })),
        );
      })
      .catch((error) => !gone && setMistake(error instanceof Error ? error.message : String(error)));
    return () => {
      gone = true;
    };
  }, [files, view.id]);

  useEffect(() => {
    if (read) head.current?.focus();
  }, [read]);

  if (mistake) return <p className="mistake mt-3">{mistake}</p>;
  if (!read) return <p className="mt-3 text-ink-2">Reading {count(files.length)} files …</p>;
  const broken = read.flatMap((r) => r.problems.map((p) => ({ ...p, file: r.name })));
  const tables = read.filter((r) => r.table).map((r) => r.name);
  const flows = [...Object.values(columns), ...Object.values(rows)].some((x) => x.role.startsWith("boundary-"));
  const set = (k: number, change: Partial<(typeof runs)[number]>) => setRuns(runs.map((r, i) => (i === k ? { ...r, ...change } : r)));
  const textOf = (name: string) => {
    const file = read.find((r) => r.name === name);
    return file ? { name, text: file.text } : null;
  };
  const bring = async () => {
    const roleOf = (x: Record<string, { role: string }>) => Object.fromEntries(Object.entries(x).map(([n, v]) => [n, v.role]));
    const unitOf = (x: Record<string, { unit: string }>) =>
      Object.fromEntries(Object.entries(x).flatMap(([n, v]) => (v.unit.trim() ? [[n, v.unit.trim()]] : [])));
    const made = await save(
      "POST /cases/{id}/bring-in-family",
      {
        at: { id: view.id },
        input: {
          code: form.code,
          volume: form.volume,
          roles: [],
          columnRoles: roleOf(columns),
          columnUnits: unitOf(columns),
          rowRolesByName: roleOf(rows),
          rowUnitsByName: unitOf(rows),
          fluxes: { signs: form.signs, factor: Number(form.factor) || 1 / physics.share },
          runs: runs.map((r) => ({
            label: r.label,
            cells: Math.round(Number(r.cells.replace(/[^\d.eE]/g, ""))) || 0,
            history: textOf(r.record),
            quantities: textOf(r.table),
          })),
        },
      },
      `${runs.length} runs were brought in.`,
    );
    if (made) done();
  };
  return (
    <div className="mt-3">
      <h3 ref={head} tabIndex={-1}>
        {count(runs.length)} runs of one family
      </h3>
      {broken.length ? (
        <ul className="border-l-2 border-pointer pl-3" role="alert">
          {broken.map((p) => (
            <li key={`${p.file}${p.line}${p.sentence}`} className="text-[12.5px]">
              <b className="font-mono font-medium">
                {p.file}, line {p.line}
              </b>
              : {p.sentence}
            </li>
          ))}
        </ul>
      ) : null}
      <table className="mt-1 max-w-[900px]">
        <thead>
          <tr>
            <th className="w">Record</th>
            <th className="w">Name of the run</th>
            <th className="w">Cells</th>
            <th className="w">Values and flows from</th>
          </tr>
        </thead>
        <tbody>
          {runs.map((r, k) => (
            <tr key={r.record || r.table}>
              <td className="w font-mono">{r.record || "none"}</td>
              <td className="w">
                <input
                  aria-label={`Name of run ${k + 1}`}
                  className="field words"
                  value={r.label}
                  onChange={(e) => set(k, { label: e.target.value })}
                />
              </td>
              <td className="w">
                <input aria-label={`Cells of run ${k + 1}`} className="field" value={r.cells} onChange={(e) => set(k, { cells: e.target.value })} />
              </td>
              <td className="w">
                <select
                  aria-label={`Table of run ${k + 1}`}
                  className="field words"
                  value={r.table}
                  onChange={(e) => set(k, { table: e.target.value })}
                >
                  <option value="">none</option>
                  {tables.map((t) => (
                    <option key={t} value={t}>
                      {t}
                    </option>
                  ))}
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Roles title="Columns of the records" entries={columns} change={setColumns} choices={columnChoices(view.evidence.quantities)} />
      <Roles title="Rows of the tables" entries={rows} change={setRows} choices={rowChoices(view.evidence.quantities)} />
      <div className="mt-3 grid max-w-[900px] grid-cols-[1fr_1fr_1.2fr_1fr_auto] items-end gap-2">
        <Field label="Code" words value={form.code} onChange={(code) => setForm({ ...form, code })} />
        <Field
          label={space === 3 ? "Volume meshed" : "Area meshed"}
          value={form.volume}
          placeholder={space === 3 ? "1.08 m^3" : "0.36 m^2"}
          onChange={(volume) => setForm({ ...form, volume })}
        />
        {flows ? (
          <>
            <Field
              label="Flows through boundaries are counted"
              words
              value={form.signs}
              onChange={(signs) => setForm({ ...form, signs })}
              choices={SIGNS}
            />
            <Field
              label="Equal parts in the whole"
              value={form.factor}
              placeholder={String(Math.round(1 / physics.share))}
              help="Every flow is multiplied by it, once."
              onChange={(factor) => setForm({ ...form, factor })}
            />
          </>
        ) : (
          <>
            <span />
            <span />
          </>
        )}
        <button type="button" className="btn" disabled={busy || broken.length > 0 || !form.code} onClick={() => void bring()}>
          Bring in {count(runs.length)} runs
        </button>
      </div>
    </div>
  );
}

interface Mapped {
  readonly role: string;
  readonly unit: string;
}

/** Entries by name in the order of the files, the first of equals kept. */
function byName(entries: readonly (readonly [name: string, Mapped])[]): Record<string, Mapped> {
  const out: Record<string, Mapped> = {};
  for (const [name, mapped] of entries) out[name] = out[name] ?? mapped;
  return out;
}

const columnsOf = (records: readonly Read[]) =>
  byName(
    records.flatMap(({ record: r }) => (r?.header ?? []).map((h, i) => [h, { role: r?.roles[i] ?? "ignore", unit: r?.units[i] ?? "" }] as const)),
  );

const rowsOf = (tables: readonly Read[]) =>
  byName(
    tables.flatMap(({ table: t }) => (t?.rows ?? []).map((row, i) => [row.name, { role: t?.roles[i] ?? "ignore", unit: row.unit ?? "" }] as const)),
  );

/** What every column or row is, by its name, with its unit. */
function Roles(p: {
  title: string;
  entries: Readonly<Record<string, { role: string; unit: string }>>;
  change: (next: Record<string, { role: string; unit: string }>) => void;
  choices: readonly (readonly [string, string])[];
}) {
  const names = Object.keys(p.entries);
  if (!names.length) return null;
  const set = (name: string, change: Partial<{ role: string; unit: string }>) =>
    p.change({ ...p.entries, [name]: { ...p.entries[name], ...change } });
  return (
    <>
      <h3 className="mt-3">{p.title}</h3>
      <div className="mt-1 grid max-w-[900px] grid-cols-2 gap-x-6 gap-y-1">
        {names.map((name) => (
          <div key={name} className="grid grid-cols-[1.2fr_1.4fr_0.7fr] items-center gap-2 text-[12.5px]">
            <span className="truncate" title={name}>
              {name}
            </span>
            <select
              aria-label={`Role of ${name}`}
              className="field words"
              value={p.entries[name].role}
              onChange={(e) => set(name, { role: e.target.value })}
            >
              {p.choices.map(([v, words]) => (
                <option key={v} value={v}>
                  {sentenceCase(words)}
                </option>
              ))}
            </select>
            <input
              aria-label={`Unit of ${name}`}
              className="field"
              placeholder="unit"
              disabled={!/^(time|boundary-|quantity:)/.test(p.entries[name].role)}
              value={p.entries[name].unit}
              onChange={(e) => set(name, { unit: e.target.value })}
            />
          </div>
        ))}
      </div>
    </>
  );
}
