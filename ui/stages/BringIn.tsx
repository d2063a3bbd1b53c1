"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { count } from "@/core/formatting/number";
import type { FluxReading } from "@/core/intake/quantityImport";
import { dimensionOf, physicsOf } from "@/core/problems/describe/caseSetup";
import { call, Refused } from "../api/call";
import { ConfirmButton } from "../parts/ConfirmButton";
import { Field } from "../parts/Field";
import { useFocusOnOpen } from "../parts/useFocusOnOpen";
import type { CaseView } from "../view";
import { BringFamily } from "./BringFamily";
import { type Mapped, Mapping } from "./Mapping";
import { type QuantitiesPreview, QuantityRows, SIGN_WORDS } from "./QuantityRows";
import { rowChoices } from "./roleChoices";
import { type Problem, type ReadingView, useReading } from "./useReading";
import { useSave } from "./useSave";

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
  const [form, setForm] = useState({
    label: "",
    code: "",
    cells: "",
    volume: "",
    recipe: "",
    signs: "outward" as FluxReading["signs"],
    schemeOrder: "",
    dropOrders: "",
    timeStep: "",
    note: "",
    factor: String(Math.round(1 / physicsOf(view.setup).share)),
  });
  const [rowUnits, setRowUnits] = useState<readonly string[]>([]);
  const [family, setFamily] = useState<readonly File[]>();
  const quantities = view.evidence.quantities;
  const physics = physicsOf(view.setup);
  const dimension = dimensionOf(physics.space);
  const own = useFocusOnOpen<HTMLElement>();

  const readLists = useCallback(() => {
    call("GET /logs", {}).then(setLogs, () => undefined);
    call("GET /recipes", {}).then(setRecipes, () => undefined);
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
    if (recipe) setForm((f) => ({ ...f, code: f.code || recipe.code }));
  }, [preview]);
  const first = useRef<Mapped>(undefined);
  useEffect(() => {
    if (!preview || mapped.roles.length !== preview.header.length || !readingId) return;
    if (first.current === mapped) return;
    first.current = mapped;
    const later = setTimeout(() => {
      call("POST /cases/{id}/readings/{reading}/check", {
        at: { id: view.id, reading: readingId },
        input: { roles: mapped.roles, units: units(mapped) },
      }).then(setChecked, (error) => setMistake(String(error.message)));
    }, 300);
    return () => clearTimeout(later);
  }, [mapped, preview, readingId, view.id]);

  const chooseTable = async (file: File | undefined) => {
    setMistake("");
    const read = file && { name: file.name, text: await file.text() };
    setTable(read);
    if (!read) return setFound({ problems: [] });
    try {
      const answer = await call("POST /cases/{id}/preview", {
        at: { id: view.id },
        input: {
          history: null,
          quantities: read,
        },
      });
      setFound({ preview: answer.quantities, problems: answer.problems });
      setRowRoles(answer.quantities?.roles ?? []);
      setRowUnits(answer.quantities?.rows.map((r) => r.unit ?? "") ?? []);
    } catch (error) {
      setMistake(error instanceof Refused ? error.message : String(error));
    }
  };
  const words = () => ({
    label: form.label,
    code: form.code,
    cells: Number(form.cells.replace(/[^\d.eE]/g, "")) || 0,
    volume: form.volume,
    roles: mapped.roles,
    units: units(mapped),
    ...(form.recipe.trim() ? { recipe: form.recipe.trim() } : {}),
  });
  const bring = async () => {
    const made = await save(
      "POST /cases/{id}/bring-in",
      {
        at: { id: view.id },
        input: {
          ...words(),
          history: readingId && reading?.state === "done" ? { reading: readingId } : null,
          quantities: table ?? null,
          rowRoles,
          rowUnits: rowUnits.map((u) => u.trim() || null),
          own: ownSettings(form),
          fluxes: { signs: form.signs, factor: Number(form.factor) || 1 },
        },
      },
      `${form.label} was brought in.`,
    );
    if (!made) return;
    release();
    done();
  };
  const follow = async () => {
    if (!readingId) return;
    if (
      !(await save(
        "POST /cases/{id}/follow",
        { at: { id: view.id }, input: { ...words(), reading: readingId } },
        `${form.label} follows ${reading?.name}.`,
      ))
    )
      return;
    release();
    done();
  };
  const forget = async (r: Recipe) => {
    await call("DELETE /recipes/{id}", { at: { id: r.id } });
    readLists();
    toast(`The recipe ${r.name} was forgotten.`, {
      action: { label: "Undo", onClick: () => void call("POST /recipes/{id}/restore", { at: { id: r.id } }).then(readLists) },
    });
  };
  const problems = [...(reading?.problems.map((x) => ({ ...x, file: reading.name })) ?? []), ...found.problems];
  const unmapped = reading?.state === "done" ? checked.problems.map((x) => ({ ...x, file: reading.name })) : [];
  const standing = reading?.state === "refused" ? problems : [...found.problems, ...unmapped];
  const readable = reading?.state === "done" || found.preview !== undefined;
  const flows = rowRoles.some((r) => r.startsWith("boundary-"));
  return (
    <section ref={own} className="mb-4 border border-line bg-margin p-4" aria-label="Bring in results">
      <div className="grid grid-cols-3 gap-4">
        <div>
          <label htmlFor="history-file">History: one line an iteration</label>
          <input
            id="history-file"
            type="file"
            multiple
            accept=".csv,.txt,.dat,.tsv,.log,.out,.json,.xlsx"
            className="block text-[12px]"
            onChange={(e) => {
              setMistake("");
              const chosen = [...(e.target.files ?? [])];
              if (chosen.length > 1) {
                discard();
                return setFamily(chosen);
              }
              setFamily(undefined);
              void choose(chosen[0] && { file: chosen[0] });
            }}
          />
          <p className="text-[11.5px] text-ink-3">text of any shape, .xlsx, or JSON by our schema; several at once become a family</p>
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
      {family ? <BringFamily key={family.map((f) => f.name).join()} view={view} files={family} done={done} /> : null}
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
      {found.preview ? (
        <QuantityRows
          preview={found.preview}
          roles={rowRoles}
          change={setRowRoles}
          units={rowUnits}
          changeUnits={setRowUnits}
          choices={rowChoices(quantities)}
        />
      ) : null}
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
          <div className="mt-3 grid grid-cols-[1.4fr_1fr_1fr_1fr] items-end gap-2">
            <Field label="Name of the run" words value={form.label} onChange={(label) => setForm({ ...form, label })} />
            <Field label="Code" words value={form.code} onChange={(code) => setForm({ ...form, code })} />
            <Field label="Cells" value={form.cells} onChange={(cells) => setForm({ ...form, cells })} />
            <Field
              label={dimension === 3 ? "Volume meshed" : "Area meshed"}
              value={form.volume}
              onChange={(volume) => setForm({ ...form, volume })}
              placeholder={dimension === 3 ? "1.08 m^3" : "0.36 m^2"}
            />
          </div>
          <details className="mt-2">
            <summary className="cursor-pointer text-[12px] text-ink-2">This run was made with settings of its own</summary>
            <div className="mt-1 grid max-w-[760px] grid-cols-4 gap-2">
              <Field
                label="Order of its scheme"
                value={form.schemeOrder}
                onChange={(schemeOrder) => setForm({ ...form, schemeOrder })}
                choices={[
                  ["", "as the case says"],
                  ["1", "first"],
                  ["2", "second"],
                ]}
              />
              <Field label="Orders residuals fell" value={form.dropOrders} onChange={(dropOrders) => setForm({ ...form, dropOrders })} />
              <Field label="Time step, s" value={form.timeStep} onChange={(timeStep) => setForm({ ...form, timeStep })} />
              <Field label="Note" words value={form.note} onChange={(note) => setForm({ ...form, note })} />
            </div>
          </details>
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
            <button
              type="button"
              className="btn"
              disabled={busy || reading?.state === "reading" || !form.label || !form.code}
              onClick={reading?.log ? follow : bring}
            >
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

/** Settings of the run itself, of those that were typed. */
function ownSettings(f: { schemeOrder: string; dropOrders: string; timeStep: string; note: string }) {
  return {
    ...(f.schemeOrder ? { schemeOrder: Number(f.schemeOrder) as 1 | 2 } : {}),
    ...(f.dropOrders.trim() ? { dropOrders: Number(f.dropOrders) } : {}),
    ...(f.timeStep.trim() ? { timeStepS: Number(f.timeStep) } : {}),
    ...(f.note.trim() ? { note: f.note.trim() } : {}),
  };
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
