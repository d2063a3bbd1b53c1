"use client";

import { readFigureCurve } from "@/core/figure/readCurve";
import { significant } from "@/core/formatting/number";
import { besideChoices, type KnownCurve } from "../curves/targets";
import { Field } from "../forms/Field";
import { typedNumber } from "../forms/typedNumber";
import { DataTable, Unseen } from "../tables/DataTable";
import { type AxisPlace, calibrationOf, type Figure, type FigureState, MODES } from "./useFigure";

/** What a press on the picture does. */
export function ModeChoice({ figure }: { figure: Figure }) {
  return (
    <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
      <legend className="text-[12px] text-ink-2">A press on the picture places</legend>
      {MODES.map(([m, words]) => (
        <label key={m} className="flex items-center gap-1.5 text-[12.5px]">
          <input type="radio" name="figure-mode" value={m} checked={figure.mode === m} onChange={() => figure.setMode(m)} />
          {words}
        </label>
      ))}
    </fieldset>
  );
}

const AXES: readonly (readonly [AxisPlace, AxisPlace, "logX" | "logY", string])[] = [
  ["x1", "x2", "logX", "x"],
  ["y1", "y2", "logY", "y"],
];

/** The values the places of the axes stand for. */
export function CalibrationForm({ figure, state }: { figure: Figure; state: FigureState }) {
  const found = calibrationOf(state);
  return (
    <div className="mt-2">
      <div className="grid grid-cols-6 gap-2">
        {AXES.map(([a, b, log, name]) => [
          ...[a, b].map((key, i) => (
            <Field
              key={key}
              label={`${name} at the ${i ? "second" : "first"} place`}
              value={state.values[key]}
              onChange={(v) => figure.put({ values: { ...state.values, [key]: v } })}
            />
          )),
          <label key={log} className="flex items-end gap-1.5 pb-1.5 text-[12.5px]">
            <input type="checkbox" checked={state[log]} onChange={(e) => figure.put({ [log]: e.target.checked })} /> {name} logarithmic
          </label>,
        ])}
      </div>
      <p className={`mt-1 text-[12px] ${"missing" in found ? "text-brass-deep" : "text-ink-3"}`}>
        {"missing" in found ? found.missing : "Calibrated; the axes may be turned, and need not meet at a right angle."}
      </p>
    </div>
  );
}

/** The curve that is being read: its name, how it is traced, its points as figures. */
export function CurveForm({ figure, state, known }: { figure: Figure; state: FigureState; known: readonly KnownCurve[] }) {
  const { curve } = figure;
  const found = calibrationOf(state);
  const number = (key: "tolerance" | "keep" | "reading" | "calibrating", low: number) => (v: string) => {
    const value = typedNumber(v);
    if (value >= low) figure.put({ [key]: value });
  };
  if (!curve) return null;
  const change = (part: Partial<typeof curve>) => figure.put({ curves: state.curves.map((c, i) => (i === state.current ? { ...c, ...part } : c)) });
  return (
    <div className="mt-2 grid grid-cols-[1fr_340px] gap-4">
      <div className="grid grid-cols-3 content-start gap-2">
        <Field
          label="Curve being read"
          value={String(state.current)}
          onChange={(v) => figure.put({ current: Number(v) })}
          choices={state.curves.map((c, i) => [String(i), `${c.name}, ${c.places.length} points`] as const)}
        />
        <Field label="Its name" value={curve.name} onChange={(name) => change({ name })} words />
        <Field label="Stands beside" value={curve.target} onChange={(target) => change({ target })} choices={besideChoices(known)} />
        <Field label="Colours alike up to, of 255" value={String(state.tolerance)} onChange={number("tolerance", 1)} />
        <Field label="Points kept of a trace" value={String(state.keep)} onChange={number("keep", 2)} />
        <Field
          label="Printed bars are"
          value={String(state.coverage)}
          onChange={(v) => figure.put({ coverage: v === "1" ? 1 : 2 })}
          choices={[
            ["2", "95 %"],
            ["1", "standard deviations"],
          ]}
        />
        <Field label="A reading is sure to, pixels" value={String(state.reading)} onChange={number("reading", 0.05)} />
        <Field label="A calibration place, pixels" value={String(state.calibrating)} onChange={number("calibrating", 0)} />
        <span className="flex items-end gap-2">
          <button
            type="button"
            className="btn quiet small"
            onClick={() =>
              figure.put({
                curves: [...state.curves, { name: `curve ${state.curves.length + 1}`, target: "", places: [] }],
                current: state.curves.length,
              })
            }
          >
            Another curve
          </button>
          <button type="button" className="btn quiet small" disabled={!figure.undo} onClick={figure.undo}>
            Take back
          </button>
          <button type="button" className="link text-[12px]" onClick={() => figure.putPlaces([])}>
            Clear
          </button>
        </span>
      </div>
      <div className="max-h-44 overflow-y-auto">
        {"calibration" in found && curve.places.length ? (
          <ReadTable figure={figure} state={state} calibration={found.calibration} />
        ) : (
          <p className="text-[12px] text-ink-3">Points appear here as figures once the axes are calibrated.</p>
        )}
      </div>
    </div>
  );
}

function ReadTable({ figure, state, calibration }: { figure: Figure; state: FigureState; calibration: Parameters<typeof readFigureCurve>[0] }) {
  const places = figure.curve?.places ?? [];
  const read = readFigureCurve(calibration, places, { reading: state.reading, calibration: state.calibrating }, state.coverage);
  const rows = read.abscissa.map((x, i) => ({
    x,
    y: read.value[i],
    u: 2 * Math.hypot(read.own[i], read.shared[i]),
    ux: 2 * read.place[i],
    at: read.places[i],
  }));
  return (
    <DataTable
      className="tight"
      rows={rows}
      rowKey={(r) => r.at.join()}
      columns={[
        { header: "x", cell: (r) => significant(r.x, 4) },
        { header: "± 95 %", cell: (r) => significant(r.ux, 1) },
        { header: "y", cell: (r) => significant(r.y, 4) },
        { header: "± 95 %", cell: (r) => significant(r.u, 1) },
        {
          header: <Unseen>Acts</Unseen>,
          words: true,
          cell: (r) => (
            <button
              type="button"
              className="link text-[11.5px] text-ink-3"
              aria-label={`Drop the point at ${significant(r.x, 4)}`}
              onClick={() => figure.putPlaces(places.filter((p) => p.at !== r.at))}
            >
              drop
            </button>
          ),
        },
      ]}
    />
  );
}
