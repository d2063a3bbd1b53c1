"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { count, significant } from "@/core/formatting/number";
import { ConfirmButton } from "../parts/ConfirmButton";
import { call, Refused } from "../parts/call";
import { Field } from "../parts/Field";
import type { CaseView } from "../view";
import { type Mapped, Mapping } from "./Mapping";
import { type Problem, type ReadingView, useReading } from "./useReading";
import { useSave } from "./useSave";

interface QuantitiesPreview {
  readonly rows: readonly { line: number; name: string; value: number; unit?: string }[];
  readonly roles: readonly string[];
}

interface LogFile {
  readonly name: string;
  readonly path: string;
  readonly bytes: number;
}

interface Recipe {
  readonly id: string;
  readonly name: string;
}

const NO_MAPPING: Mapped = { roles: [], units: [] };
const SIGN_WORDS = [
  ["outward", "positive outward"],
  ["inward", "positive inward"],
  ["by-name", "all positive, the name says which way"],
] as const;

/** Files of another code, or a log it is still writing, become a run: found, shown, mapped; nothing is stored until confirmed. */
export function BringIn({ view, done }: { view: CaseView; done: () => void }) {
  const { save, busy } = useSave();
  const [mistake, setMistake] = useState("");
  const { reading, choose, chooseSheet, discard, release } = useReading(view.id, setMistake);
  const [mapped, setMapped] = useState<Mapped>(NO_MAPPING);
  const [checked, setChecked] = useState<{ problems: readonly Problem[]; notes: readonly string[] }>({ problems: [], notes: [] });
  const [table, setTable] = useState<{ name: string; text: string }>();
  const [found, setFound] = useState<{ preview?: QuantitiesPreview; problems: readonly Problem[] }>({ problems: [] });
  const [rowRoles, setRowRoles] = useState<readonly string[]>([]);
  const [logs, setLogs] = useState<readonly LogFile[]>([]);
  const [recipes, setRecipes] = useState<readonly Recipe[]>([]);
  const [form, setForm] = useState({ label: "", code: "", cells: "", volume: "", dimension: "3", recipe: "", signs: "outward", factor: "1" });
  const quantities = view.evidence.quantities.map((q) => [`quantity:${q.key}`, q.name] as const);
  const rowChoices = [
    ["ignore", "left out"],
    ["boundary-mass", "mass through a boundary"],
    ["boundary-x", "x force and momentum through a boundary"],
    ["boundary-y", "y force and momentum through a boundary"],
    ["boundary-energy", "energy through a boundary"],
    ["boundary-species", "species through a boundary"],
    ...quantities,
  ] as const;

  const readLists = useCallback(() => {
    call<LogFile[]>("GET", "logs").then(setLogs, () => undefined);
    call<Recipe[]>("GET", "recipes").then(setRecipes, () => undefined);
  }, []);
  useEffect(readLists, [readLists]);

  // A file just read brings its mapping; a person's changes are checked by the server.
  const preview = reading?.preview;
  const readingId = reading?.id;
  useEffect(() => {
    if (!preview) return setMapped(NO_MAPPING);
    setMapped({ roles: preview.roles, units: preview.header.map((_, i) => preview.units[i] ?? "") });
    setChecked({ problems: [], notes: preview.notes });
    const { recipe } = preview;
    if (recipe) setForm((f) => ({ ...f, code: f.code || recipe.code, dimension: String(recipe.dimension) }));
  }, [preview]);
  const first = useRef<Mapped>(undefined);
  useEffect(() => {
    if (!preview || mapped.roles.length !== preview.header.length || !readingId) return;
    if (first.current === mapped) return;
    first.current = mapped;
    const later = setTimeout(() => {
      call<typeof checked>("POST", `cases/${view.id}/readings/${readingId}/check`, { roles: mapped.roles, units: units(mapped) }).then(
        setChecked,
        (error) => setMistake(String(error.message)),
      );
    }, 300);
    return () => clearTimeout(later);
  }, [mapped, preview, readingId, view.id]);

  const chooseTable = async (file: File | undefined) => {
    setMistake("");
    const read = file && { name: file.name, text: await file.text() };
    setTable(read);
    if (!read) return setFound({ problems: [] });
    try {
      const answer = await call<{ quantities?: QuantitiesPreview; problems: Problem[] }>("POST", `cases/${view.id}/preview`, {
        history: null,
        quantities: read,
      });
      setFound({ preview: answer.quantities, problems: answer.problems });
      setRowRoles(answer.quantities?.roles ?? []);
    } catch (error) {
      setMistake(error instanceof Refused ? error.message : String(error));
    }
  };
  const words = () => ({
    label: form.label,
    code: form.code,
    cells: Number(form.cells.replace(/[^\d.eE]/g, "")) || 0,
    volume: form.volume,
    dimension: Number(form.dimension),
    roles: mapped.roles,
    units: units(mapped),
    ...(form.recipe.trim() ? { recipe: form.recipe.trim() } : {}),
  });
  const bring = async () => {
    const made = await save(
      "POST",
      `cases/${view.id}/bring-in`,
      {
        ...words(),
        history: readingId && reading?.state === "done" ? { reading: readingId } : null,
        quantities: table ?? null,
        rowRoles,
        fluxes: { signs: form.signs, factor: Number(form.factor) || 1 },
      },
      `${form.label} was brought in.`,
    );
    if (!made) return;
    release();
    done();
  };
  const follow = async () => {
    if (!(await save("POST", `cases/${view.id}/follow`, { ...words(), reading: readingId }, `${form.label} follows ${reading?.name}.`))) return;
    release();
    done();
  };
  const forget = async (r: Recipe) => {
    await call("DELETE", `recipes/${r.id}`);
    readLists();
    toast(`The recipe ${r.name} was forgotten.`, {
      action: { label: "Undo", onClick: () => void call("POST", `recipes/${r.id}/restore`).then(readLists) },
    });
  };
  const problems = [...(reading?.problems.map((x) => ({ ...x, file: reading.name })) ?? []), ...found.problems];
  const unmapped = reading?.state === "done" ? checked.problems.map((x) => ({ ...x, file: reading.name })) : [];
  const standing = reading?.state === "refused" ? problems : [...found.problems, ...unmapped];
  const readable = reading?.state === "done" || found.preview !== undefined;
  const flows = rowRoles.some((r) => r.startsWith("boundary-"));
  return (
    <section className="mb-4 border border-line bg-margin p-4" aria-label="Bring in results">
      <div className="grid grid-cols-3 gap-4">
        <div>
          <label htmlFor="history-file">History: one line an iteration</label>
          <input
            id="history-file"
            type="file"
            accept=".csv,.txt,.dat,.tsv,.log,.out,.json,.xlsx"
            className="block text-[12px]"
            onChange={(e) => {
              setMistake("");
              const file = e.target.files?.[0];
              void choose(file && { file });
            }}
          />
          <p className="text-[11.5px] text-ink-3">text of any shape, .xlsx, or JSON by our schema</p>
        </div>
        <div>
          <label htmlFor="log-file">or a log on the server</label>
          <select
            id="log-file"
            className="field words"
            value={reading?.log ? (logs.find((l) => l.name === reading.name)?.path ?? "") : ""}
            onFocus={readLists}
            onChange={(e) => {
              const log = logs.find((l) => l.path === e.target.value);
              setMistake("");
              void choose(log && { log: log.path, name: log.name });
            }}
          >
            <option value="">{logs.length ? "choose" : "none in the watched folders"}</option>
            {logs.map((l) => (
              <option key={l.path} value={l.path}>
                {l.name}, {count(Math.ceil(l.bytes / 1024))} kB
              </option>
            ))}
          </select>
          <p className="text-[11.5px] text-ink-3">followed while it is being written</p>
        </div>
        <div>
          <label htmlFor="quantities-file">Quantities: name, value, unit (CSV)</label>
          <input
            id="quantities-file"
            type="file"
            accept=".csv,.txt,.dat,.tsv"
            className="block text-[12px]"
            onChange={(e) => void chooseTable(e.target.files?.[0])}
          />
        </div>
      </div>
      {mistake ? <p className="mistake mt-2">{mistake}</p> : null}
      {reading?.state === "reading" ? <Underway reading={reading} stop={discard} /> : null}
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
      {preview && readingId && mapped.roles.length === preview.header.length ? (
        <>
          {preview.recipe ? <p className="mt-2 text-[12.5px]">Read as the recipe “{preview.recipe.name}” says; change what differs.</p> : null}
          <Mapping
            key={readingId}
            caseId={view.id}
            readingId={readingId}
            preview={preview}
            mapped={mapped}
            change={setMapped}
            quantities={quantities}
            notes={checked.notes}
          />
        </>
      ) : null}
      {found.preview ? <QuantityRows preview={found.preview} roles={rowRoles} change={setRowRoles} choices={rowChoices} /> : null}
      {flows ? (
        <div className="mt-2 grid max-w-[760px] grid-cols-2 gap-3">
          <Field
            label="Flows through boundaries are counted"
            words
            value={form.signs}
            onChange={(signs) => setForm({ ...form, signs })}
            choices={SIGN_WORDS}
          />
          <Field
            label="The model is one of so many equal parts; flows in the file are of the part"
            value={form.factor}
            onChange={(factor) => setForm({ ...form, factor })}
            help="1 for a whole model or figures that are whole already, 2 for a half model, n for one of n periodic parts. Every flow is multiplied by it, once."
          />
        </div>
      ) : null}
      {readable && !standing.length ? (
        <>
          <div className="mt-3 grid grid-cols-[1.4fr_1fr_1fr_1fr_0.8fr] items-end gap-2">
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
          </div>
          <div className="mt-2 flex items-end gap-3">
            {preview ? (
              <div className="w-[300px]">
                <Field
                  label="Keep this mapping as a recipe named"
                  words
                  value={form.recipe}
                  onChange={(recipe) => setForm({ ...form, recipe })}
                  placeholder="not kept"
                />
              </div>
            ) : null}
            <button type="button" className="btn" disabled={busy || !form.label || !form.code} onClick={reading?.log ? follow : bring}>
              {reading?.log ? "Follow as a run" : "Bring in as a run"}
            </button>
          </div>
        </>
      ) : null}
      {recipes.length ? (
        <p className="mt-3 text-[12px] text-ink-2">
          Recipes kept:{" "}
          {recipes.map((r) => (
            <span key={r.id} className="mr-3">
              {r.name}{" "}
              <ConfirmButton
                className="link text-[11.5px] text-ink-3"
                label={`Forget the recipe ${r.name}`}
                question={`Forget the recipe ${r.name}?`}
                text="Runs that were brought in by it stay as they are. You can undo this for a few seconds."
                action="Forget"
                onConfirm={() => void forget(r)}
              >
                forget
              </ConfirmButton>
            </span>
          ))}
        </p>
      ) : null}
      <p className="mt-2 text-[11.5px] text-ink-3">
        Units may stand in brackets behind a column's name or in a line of their own. Nothing is stored until you confirm.
      </p>
    </section>
  );
}

const units = (m: Mapped) => m.units.map((u) => (u.trim() === "" ? null : u.trim()));

function Underway({ reading, stop }: { reading: ReadingView; stop: () => void }) {
  const share = reading.total ? reading.read / reading.total : undefined;
  return (
    <div className="mt-2 flex items-center gap-3 text-[12.5px]" aria-live="polite">
      <progress className="w-52" value={share} max={1} aria-label={`Reading ${reading.name}`} />
      <span>
        {reading.id ? `${count(reading.rows)} rows read` : `sending ${reading.name}`}
        {share === undefined ? "" : `, ${Math.round(share * 100)} %`}
      </span>
      <button type="button" className="btn quiet small" onClick={stop}>
        Stop
      </button>
    </div>
  );
}

function Problems({ problems }: { problems: readonly Problem[] }) {
  if (!problems.length) return null;
  return (
    <div className="mt-3 border-l-2 border-pointer pl-3" role="alert">
      <h3>Cannot be read as it is; nothing was stored</h3>
      <ul>
        {problems.map((p) => (
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
  );
}

function QuantityRows(p: {
  preview: QuantitiesPreview;
  roles: readonly string[];
  change: (roles: readonly string[]) => void;
  choices: readonly (readonly [string, string])[];
}) {
  return (
    <div className="mt-3">
      <h3>Quantities</h3>
      <table className="mt-1 max-w-[760px]">
        <tbody>
          {p.preview.rows.map((r, i) => (
            <tr key={r.line}>
              <td className="w">{r.name}</td>
              <td>{significant(r.value, 6)}</td>
              <td className="w font-mono">{r.unit ?? ""}</td>
              <td className="w">
                <select
                  aria-label={`Role of row ${r.name}`}
                  className="field words"
                  value={p.roles[i]}
                  onChange={(e) => p.change(p.roles.map((x, k) => (k === i ? e.target.value : x)))}
                >
                  {p.choices.map(([v, n]) => (
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
  );
}
