"use client";

import { useRef, useState } from "react";
import { significant } from "@/core/formatting/number";
import { call, Refused } from "../parts/call";
import { Field } from "../parts/Field";
import type { CaseView } from "../view";
import { useSave } from "./useSave";

interface TextFile {
  readonly name: string;
  readonly text: string;
}

interface Preview {
  readonly history?: {
    header: string[];
    units: (string | null)[];
    delimiter: string;
    rows: number;
    sample: string[][];
    roles: string[];
    notes: string[];
  };
  readonly quantities?: { rows: { line: number; name: string; value: number; unit?: string }[]; roles: string[] };
  readonly problems: { file: string; line: number; column?: string; sentence: string }[];
}

const DELIMITERS: Readonly<Record<string, string>> = { ",": "commas", ";": "semicolons", "\t": "tabs", " ": "blanks" };

/** Files of another code become a run: columns found, shown and mapped; nothing is stored until confirmed. */
export function BringIn({ view, done }: { view: CaseView; done: () => void }) {
  const { save, busy } = useSave();
  const [files, setFiles] = useState<{ history: TextFile | null; quantities: TextFile | null }>({ history: null, quantities: null });
  const chosen = useRef(files);
  const [preview, setPreview] = useState<Preview>();
  const [mistake, setMistake] = useState("");
  const [roles, setRoles] = useState<readonly string[]>([]);
  const [rowRoles, setRowRoles] = useState<readonly string[]>([]);
  const [form, setForm] = useState({ label: "", code: "", cells: "", volume: "", dimension: "3" });
  const quantityRoles = view.evidence.quantities.map((q) => [`quantity:${q.key}`, q.name] as const);
  const columnChoices = [
    ["ignore", "left out"],
    ["iteration", "iteration"],
    ["time", "time, s"],
    ["residual", "residual"],
    ["log-residual", "residual, as log10"],
    ...quantityRoles,
  ] as const;
  const rowChoices = [["ignore", "left out"], ["boundary-mass", "mass through a boundary, outward positive"], ...quantityRoles] as const;

  const choose = async (kind: "history" | "quantities", file: File | undefined) => {
    const read = file ? { name: file.name, text: await file.text() } : null;
    // Two files chosen in quick succession: each adds to what is chosen by then, and only the last answer counts.
    const next = { ...chosen.current, [kind]: read };
    chosen.current = next;
    setFiles(next);
    setMistake("");
    if (!next.history && !next.quantities) return setPreview(undefined);
    try {
      const found = await call<Preview>("POST", `cases/${view.id}/preview`, next);
      if (chosen.current !== next) return;
      setPreview(found);
      setRoles(found.history?.roles ?? []);
      setRowRoles(found.quantities?.roles ?? []);
    } catch (error) {
      setMistake(error instanceof Refused ? error.message : String(error));
    }
  };
  const bring = async () => {
    const made = await save(
      "POST",
      `cases/${view.id}/bring-in`,
      {
        ...files,
        label: form.label,
        code: form.code,
        cells: Number(form.cells.replace(/[^\d.eE]/g, "")) || 0,
        volume: form.volume,
        dimension: Number(form.dimension),
        roles,
        rowRoles,
      },
      `${form.label} was brought in.`,
    );
    if (made) done();
  };
  const readable = preview && (preview.history || preview.quantities);
  return (
    <section className="mb-4 border border-line bg-margin p-4" aria-label="Bring in results">
      <div className="grid grid-cols-2 gap-4">
        <div>
          <label htmlFor="history-file">History: one line an iteration (CSV)</label>
          <input
            id="history-file"
            type="file"
            accept=".csv,.txt,.dat,.tsv"
            className="block text-[12px]"
            onChange={(e) => void choose("history", e.target.files?.[0])}
          />
        </div>
        <div>
          <label htmlFor="quantities-file">Quantities: name, value, unit (CSV)</label>
          <input
            id="quantities-file"
            type="file"
            accept=".csv,.txt,.dat,.tsv"
            className="block text-[12px]"
            onChange={(e) => void choose("quantities", e.target.files?.[0])}
          />
        </div>
      </div>
      {mistake ? <p className="mistake mt-2">{mistake}</p> : null}
      {preview?.problems.length ? (
        <div className="mt-3 border-l-2 border-pointer pl-3" role="alert">
          <h3>Cannot be read as it is; nothing was stored</h3>
          <ul>
            {preview.problems.map((p) => (
              <li key={`${p.file}${p.line}${p.column}${p.sentence}`} className="text-[12.5px]">
                <b className="font-mono font-medium">
                  {p.file}, line {p.line}
                  {p.column ? `, ${p.column}` : ""}
                </b>
                : {p.sentence}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {preview?.history ? (
        <div className="mt-3 overflow-x-auto">
          <h3>
            History: {preview.history.rows} rows, separated by {DELIMITERS[preview.history.delimiter] ?? preview.history.delimiter}
          </h3>
          <table className="mt-1">
            <thead>
              <tr>
                {preview.history.header.map((name, i) => (
                  <th key={name} className="text-left">
                    <span className="block text-ink">
                      {name}
                      {preview.history?.units[i] ? ` (${preview.history.units[i]})` : ""}
                    </span>
                    <select
                      aria-label={`Role of column ${name}`}
                      className="field words"
                      value={roles[i]}
                      onChange={(e) => setRoles(roles.map((r, k) => (k === i ? e.target.value : r)))}
                    >
                      {columnChoices.map(([v, n]) => (
                        <option key={v} value={v}>
                          {n}
                        </option>
                      ))}
                    </select>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {preview.history.sample.map((row) => (
                <tr key={row.join("|")}>
                  {row.map((c, i) => (
                    <td key={`${i}${c}`}>{c.slice(0, 24)}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          {preview.history.notes.map((n) => (
            <p key={n} className="text-[12px] text-ink-2">
              {n}
            </p>
          ))}
        </div>
      ) : null}
      {preview?.quantities ? (
        <div className="mt-3">
          <h3>Quantities</h3>
          <table className="mt-1 max-w-[760px]">
            <tbody>
              {preview.quantities.rows.map((r, i) => (
                <tr key={r.line}>
                  <td className="w">{r.name}</td>
                  <td>{significant(r.value, 6)}</td>
                  <td className="w font-mono">{r.unit ?? ""}</td>
                  <td className="w">
                    <select
                      aria-label={`Role of row ${r.name}`}
                      className="field words"
                      value={rowRoles[i]}
                      onChange={(e) => setRowRoles(rowRoles.map((x, k) => (k === i ? e.target.value : x)))}
                    >
                      {rowChoices.map(([v, n]) => (
                        <option key={v} value={v}>
                          {n}
                        </option>
                      ))}
                    </select>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ) : null}
      {readable && !preview.problems.length ? (
        <div className="mt-3 grid grid-cols-[1.4fr_1fr_1fr_1fr_0.8fr_auto] items-end gap-2">
          <Field label="Name of the run" words value={form.label} onChange={(label) => setForm({ ...form, label })} />
          <Field label="Code" words value={form.code} onChange={(code) => setForm({ ...form, code })} />
          <Field label="Cells" value={form.cells} onChange={(cells) => setForm({ ...form, cells })} />
          <Field
            label={form.dimension === "3" ? "Volume meshed" : "Area meshed"}
            value={form.volume}
            onChange={(volume) => setForm({ ...form, volume })}
            placeholder={form.dimension === "3" ? "1.08 m^3" : "0.36 m^2"}
          />
          <Field
            label="Mesh"
            value={form.dimension}
            onChange={(dimension) => setForm({ ...form, dimension })}
            choices={[
              ["3", "3-D"],
              ["2", "2-D"],
            ]}
          />
          <button type="button" className="btn" disabled={busy || !form.label || !form.code} onClick={bring}>
            Bring in as a run
          </button>
        </div>
      ) : null}
      <p className="mt-3 text-[11.5px] text-ink-3">Units stand in brackets behind a column's name. Nothing is stored until you confirm.</p>
    </section>
  );
}
