"use client";

import { useRef, useState } from "react";
import { METRICS } from "@/core/dataset/metrics";
import { percent, significant } from "@/core/formatting/number";
import { FIELD_ROLES, type FieldRole, ROLE_UNITS } from "@/core/intake/gridFields";
import { type Answer, call, type Input, Refused } from "../../api/call";
import { uploaded } from "../../api/upload";
import { Field } from "../../forms/Field";
import { FormEnd } from "../../forms/FormEnd";
import { typedNumber } from "../../forms/typedNumber";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import { useSave } from "../../forms/useSave";
import { notify } from "../../shell/notify";
import { typedPlace } from "../../space/look/entries";
import { arrayColumns, arrayKey, type SaidArray } from "../../tables/arrayColumns";
import { Bars } from "../../tables/Bars";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable } from "../../tables/DataTable";
import { LayersTable } from "../../tables/LayersTable";
import { metricFigure, metricName, qualityCsv } from "../../tables/qualityFigures";
import type { RunView } from "../../view";

type Looked = Answer<"POST /runs/{id}/grid/look">;
type Cut = NonNullable<Input<"POST /runs/{id}/grid/look">["cut"]>;
type Looking = { readonly name: string; readonly hash: string; readonly found: Looked; readonly cut?: Cut };

const ROLE_WORDS: Readonly<Record<FieldRole, string>> = {
  ignore: "left out",
  velocity: "velocity",
  "velocity-x": "velocity along x",
  "velocity-y": "velocity along y",
  pressure: "pressure, or pressure over density",
  temperature: "temperature",
  density: "density",
  other: "a field of its own name",
};

type LookedArray = Looked["arrays"][number];
const ROLE_CHOICES = FIELD_ROLES.map((r) => [r, ROLE_WORDS[r]] as const);
const FROM_TO = {
  header: "From, to",
  cell: ({ low, high }: LookedArray) => (low === null || high === null ? "–" : `${significant(low, 4)}, ${significant(high, 4)}`),
};

/** Mesh and fields of a brought-in run, from a file with a plane grid: looked at first, then taken as it is said. */
export function GridForm({ run, done }: { run: RunView; done: () => void }) {
  const [looking, setLooking] = useState<Looking>();
  const [busy, setBusy] = useState("");
  const [mistake, setMistake] = useState("");
  const own = useFocusOnOpen<HTMLElement>();
  const stop = useRef<AbortController>(undefined);
  const choose = async (file: File | undefined) => {
    setLooking(undefined);
    setMistake("");
    if (!file) return;
    setBusy(`Sending ${file.name}`);
    try {
      const told = (share: number) => setBusy(`Sending ${file.name}: ${Math.floor(100 * share)} %`);
      stop.current = new AbortController();
      const hash = await uploaded(file, { told, signal: stop.current.signal });
      stop.current = undefined;
      setBusy(`Reading ${file.name}`);
      setLooking({ name: file.name, hash, found: await call("POST /runs/{id}/grid/look", { at: { id: run.id }, input: { hash } }) });
    } catch (error) {
      setMistake(error instanceof Refused ? error.message : String(error));
    } finally {
      stop.current = undefined;
      setBusy("");
    }
  };
  const cutWith = async (at: Looking, cut: Cut) => {
    setBusy(`Cutting ${at.name}`);
    setMistake("");
    try {
      setLooking({ ...at, cut, found: await call("POST /runs/{id}/grid/look", { at: { id: run.id }, input: { hash: at.hash, cut } }) });
    } catch (error) {
      setMistake(error instanceof Refused ? error.message : String(error));
    } finally {
      setBusy("");
    }
  };
  return (
    <section ref={own} className="mb-3 border border-line bg-margin p-3" aria-label={`Fields of ${run.label}`}>
      <h3>Mesh and fields of {run.label}</h3>
      <label htmlFor="grid-file" className="block">
        A grid in a plane, or in space to be cut (vtu, vtp, vts, vtr, vti, text or binary; cgns)
      </label>
      <input
        id="grid-file"
        type="file"
        accept=".vtu,.vtp,.vts,.vtr,.vti,.cgns"
        className="block text-[12px]"
        onChange={(e) => void choose(e.target.files?.[0])}
      />
      <p className="flex min-h-6 items-center gap-3 text-[12px] text-ink-2" aria-live="polite">
        {busy}
        {busy.startsWith("Sending") ? (
          <button type="button" className="btn quiet small" onClick={() => stop.current?.abort()}>
            Stop
          </button>
        ) : null}
      </p>
      {mistake ? <p className="mistake">{mistake}</p> : null}
      {looking ? (
        <>
          {looking.found.solid ? (
            <CutForm key={`cut ${looking.hash}`} found={looking.found} busy={busy !== ""} cut={(c) => void cutWith(looking, c)} />
          ) : null}
          <Arrays key={looking.hash} run={run} {...looking} done={done} />
        </>
      ) : (
        <button type="button" className="btn quiet mt-1" onClick={done}>
          Leave it
        </button>
      )}
    </section>
  );
}

/** A plane with which cells in space are cut: in the middle at first, across their shortest way. */
function CutForm({ found: { low, high }, busy, cut }: { found: Looked; busy: boolean; cut: (c: Cut) => void }) {
  const shortest = [0, 1, 2].reduce((a, b) => (high[b] - low[b] < high[a] - low[a] ? b : a));
  const middle = low.map((v, d) => Number(((v + high[d]) / 2).toPrecision(5)));
  const [across, setAcross] = useState(String(shortest));
  const [at, setAt] = useState(String(middle[shortest]));
  const [normal, setNormal] = useState("1, 1, 0");
  const [through, setThrough] = useState(middle.join(", "));
  const [mistake, setMistake] = useState("");
  const askew = across === "askew";
  const axis = askew ? 0 : (Number(across) as 0 | 1 | 2);
  const put = () => {
    const made = askew ? askewCut(normal, through) : straightCut(axis, at);
    setMistake(typeof made === "string" ? made : "");
    if (typeof made !== "string") cut(made);
  };
  return (
    <div className="mt-2 flex flex-wrap items-end gap-3">
      <div className="w-40">
        <Field
          label="Cut with a plane across"
          words
          value={across}
          choices={[
            ["0", "x"],
            ["1", "y"],
            ["2", "z"],
            ["askew", "a direction"],
          ]}
          onChange={setAcross}
        />
      </div>
      {askew ? (
        <>
          <div className="w-40">
            <Field label="Direction across it" value={normal} onChange={setNormal} mistake={mistake} />
          </div>
          <div className="w-60">
            <Field label="Through, in the file’s unit" value={through} onChange={setThrough} />
          </div>
        </>
      ) : (
        <div className="w-60">
          <Field label={`At, from ${significant(low[axis], 4)} to ${significant(high[axis], 4)}`} value={at} onChange={setAt} mistake={mistake} />
        </div>
      )}
      <button type="button" className="btn quiet" disabled={busy} onClick={put}>
        Cut it
      </button>
    </div>
  );
}

function straightCut(across: 0 | 1 | 2, at: string): Cut | string {
  const value = typedNumber(at);
  return Number.isFinite(value) ? { across, at: value } : `"${at}" is not a number.`;
}

function askewCut(direction: string, place: string): Cut | string {
  const [normal, through] = [typedPlace(direction), typedPlace(place)];
  if (!normal?.some((v) => v !== 0)) return `"${direction}" is no direction: three numbers such as 1, 1, 0.`;
  if (!through) return `"${place}" is no place: three numbers, such as 0.1, 0, 2.`;
  return { normal: [...normal], through: [...through] };
}

function Arrays({ run, name, hash, found, cut, done }: Looking & { run: RunView; done: () => void }) {
  const { save, busy, mistakes } = useSave();
  const [words, setWords] = useState<Readonly<Record<string, SaidArray<FieldRole>>>>(() =>
    Object.fromEntries(found.arrays.map((a) => [arrayKey(a), { role: a.role, unit: a.unit }])),
  );
  const [length, setLength] = useState("m");
  const [replace, setReplace] = useState(false);
  const set = (a: LookedArray, { role, unit = words[arrayKey(a)].unit }: Partial<SaidArray<FieldRole>>) => {
    const next = role ?? words[arrayKey(a)].role;
    const preset = role === undefined || role === "ignore" || role === "other" ? "" : ROLE_UNITS[role];
    setWords({ ...words, [arrayKey(a)]: { role: next, unit: unit || preset } });
  };
  const take = async () => {
    const arrays = found.arrays.map((a) => ({ name: a.name, on: a.on, ...words[arrayKey(a)] }));
    const told = await save(
      "POST /runs/{id}/grid",
      { at: { id: run.id }, input: { hash, name, length, arrays, replace, ...(cut ? { cut } : {}) } },
      `${run.label} has its fields.`,
    );
    if (!told) return;
    for (const note of told.notes) notify(note);
    done();
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void take();
      }}
    >
      <p className="text-[12.5px]">
        {found.cells} cells ({found.kinds.map((k) => `${k.count} ${k.name}`).join(", ")}), {found.points} points.{" "}
        {found.plane
          ? `In the plane ${found.plane.cells} cells, ${significant(found.plane.width, 4)} by ${significant(found.plane.height, 4)} in the file’s unit.`
          : ""}
      </p>
      {found.notes.map((n) => (
        <p key={n} className="text-[12px] text-ink-2">
          {n}
        </p>
      ))}
      {found.quality ? <Quality run={run} hash={hash} length={length} quality={found.quality} name={name} /> : null}
      {found.refusal ? <p className="mistake">{found.refusal}</p> : null}
      {found.plane && found.arrays.length ? (
        <>
          <div className="mt-2 w-40">
            <Field label="Unit of length of the file" value={length} onChange={setLength} mistake={mistakes.length} />
          </div>
          <DataTable
            className="mt-2 max-w-[860px]"
            rows={found.arrays}
            rowKey={arrayKey}
            columns={arrayColumns({ said: words, choices: ROLE_CHOICES, ignored: "ignore", set, mistakes, more: FROM_TO })}
          />
          <label className="mt-2 flex items-center gap-2">
            <input type="checkbox" checked={replace} onChange={(e) => setReplace(e.target.checked)} /> replace fields the run has already
          </label>
        </>
      ) : found.arrays.length ? null : (
        <p className="mistake">The file has no array on its points or cells.</p>
      )}
      <span className="mt-2 flex gap-2">
        <FormEnd leave={done} off={busy || !found.plane || !Object.values(words).some((w) => w.role !== "ignore")}>
          {busy ? "Taking the fields" : "Give it these fields"}
        </FormEnd>
      </span>
    </form>
  );
}

type Judged = NonNullable<Looked["quality"]>;
type JudgedMetric = Judged["metrics"][number];

/** Quality of the cells in space, metric by metric, with where the worst of each sits. */
function Quality({ quality: q, name, run, hash, length }: { quality: Judged; name: string; run: RunView; hash: string; length: string }) {
  const [limits, setLimits] = useState<Readonly<Record<string, string>>>(() => Object.fromEntries(q.metrics.map((m) => [m.metric, String(m.limit)])));
  const { save, busy } = useSave();
  const wrong = q.metrics.find((m) => !(typedNumber(limits[m.metric]) > 0));
  const keep = () => {
    const typed = Object.fromEntries(q.metrics.map((m) => [m.metric, typedNumber(limits[m.metric])]));
    void save(
      "POST /runs/{id}/grid/quality",
      { at: { id: run.id }, input: { hash, name, length, limits: typed } },
      `The quality of its cells is kept with ${run.label}; it stands at Meshes.`,
    );
  };
  const faults = [
    q.inverted.length ? `${q.inverted.length} inside out (${q.inverted.slice(0, 5).join(", ")})` : "",
    q.open.length ? `${q.open.length} whose faces do not close (${q.open.slice(0, 5).join(", ")})` : "",
    q.crowded ? `${q.crowded} faces that more than two cells claim` : "",
    q.interfaces?.open
      ? `${q.interfaces.faces} faces on an interface, of whose area ${percent(q.interfaces.open / q.interfaces.area)} faces nothing`
      : "",
  ].filter(Boolean);
  return (
    <section className="mt-2 max-w-[860px]" aria-label="Quality of its cells">
      <div className="flex items-end justify-between">
        <h3>Quality of its {q.cells} cells in space</h3>
        <CsvButton name={`quality of ${name}`} {...qualityCsv(q.metrics)} />
      </div>
      <p className="text-[12px] text-ink-2">
        {q.faces} faces, {q.outside} of them outside; volume {significant(q.volume, 4)} in the file’s unit.{" "}
        {faults.length ? <b className="font-[600] text-ink">Cells: {faults.join("; ")}.</b> : "No cell is inside out, none is open."}
      </p>
      <DataTable rows={q.metrics} rowKey={(m) => m.metric} columns={qualityColumns(limits, (metric, v) => setLimits({ ...limits, [metric]: v }))} />
      <LayersTable layers={q.layers} length={length} name={name} />
      {wrong ? <p className="mistake">{`The limit of ${METRICS[wrong.metric].name}, "${limits[wrong.metric]}", is no positive number.`}</p> : null}
      <button type="button" className="btn quiet mt-1" disabled={busy || wrong !== undefined} onClick={keep}>
        {busy ? "Judging its cells" : "Keep their quality with the run"}
      </button>
    </section>
  );
}

const qualityColumns = (limits: Readonly<Record<string, string>>, set: (metric: string, limit: string) => void): Column<JudgedMetric>[] => [
  {
    header: "Metric",
    words: true,
    headClassName: "text-left",
    cell: (m) => metricName(m.metric),
  },
  { header: "Median", cell: (m) => metricFigure(m.median) },
  { header: "Worst", cell: (m) => metricFigure(m.worst) },
  {
    header: "Limit",
    headClassName: "w-20",
    cell: (m) => <Field unseenLabel label={`Limit of ${METRICS[m.metric].name}`} value={limits[m.metric]} onChange={(v) => set(m.metric, v)} />,
  },
  { header: "Beyond it", cell: (m) => m.beyond },
  { header: "From least to worst", cell: (m) => <Bars counts={m.counts} /> },
  { header: "Worst cell", cell: (m) => (m.cells[0] ? `${m.cells[0].cell} at ${m.cells[0].at.map((v) => significant(v, 3)).join(", ")}` : "") },
];
