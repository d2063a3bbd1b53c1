"use client";

import { extent } from "d3-array";
import { useState } from "react";
import { drawChart } from "@/core/drawing/chart";
import type { StationCurves } from "@/core/intake/stationCurves";
import type { SurfaceLook } from "@/core/intake/surfaceLook";
import type { SurfaceRecord } from "@/core/records/surfaces";
import { Drawing } from "../charts/Drawing";
import { Field } from "../forms/Field";
import { useSave } from "../forms/useSave";
import { notify, sentenceOf } from "../shell/notify";
import { CsvButton } from "../tables/CsvButton";
import { askSpace } from "./askSpace";
import { ABSCISSAE, AXES, askedOf, firstCuts, READ, readableOf, type TypedCuts } from "./typedCuts";

interface Props {
  readonly runId: string;
  readonly label: string;
  readonly record: SurfaceRecord;
  readonly look: SurfaceLook;
  readonly conditions: Readonly<Record<string, number>>;
  /** what was cut, to be drawn over the surface */
  readonly cut: (lines: StationCurves["lines"]) => void;
}

/** Curves of what is known on the surface along cuts through it: looked at first, then kept as curves of the run, which Comparison holds against yardsticks. */
export function StationCuts(p: Props) {
  const readable = readableOf(p.record.said.arrays.map((a) => a.role));
  const [typed, setTyped] = useState(() => firstCuts(p.look, readable, p.conditions));
  const [found, setFound] = useState<StationCurves>();
  const [mistake, setMistake] = useState("");
  if (!readable.length) return null;
  const show = (made: StationCurves | undefined, said = "") => {
    setFound(made);
    p.cut(made?.lines ?? []);
    setMistake(said);
  };
  const set = (change: Partial<TypedCuts>) => {
    setTyped({ ...typed, ...change });
    show(undefined);
  };
  const lookAt = async () => {
    const { said, found: known } = p.record;
    try {
      show(await askSpace("cut", { said, unitM: known.unitM, densityKgM3: p.conditions.densityKgM3 ?? 1, asked: askedOf(typed) }));
    } catch (error) {
      show(undefined, sentenceOf(error));
    }
  };
  const third = "xyz"[3 - Number(typed.across) - Number(typed.along)] ?? "";
  return (
    <section className="mt-4" aria-label="Curves along cuts">
      <h3>Curves along cuts</h3>
      <form
        className="flex flex-wrap items-end gap-x-3 gap-y-2"
        onSubmit={(e) => {
          e.preventDefault();
          void lookAt();
        }}
      >
        <div className="w-32">
          <Field label="Planes across" words value={typed.across} choices={AXES} onChange={(across) => set({ across })} />
        </div>
        <div className="w-60">
          <Field
            label={`At ${"xyz"[Number(typed.across)]}, ${p.record.said.length}`}
            value={typed.stations}
            onChange={(stations) => set({ stations })}
          />
        </div>
        <div className="w-44">
          <Field label="Read" words value={typed.of} choices={readable.map((of) => [of, READ[of]] as const)} onChange={(of) => set({ of })} />
        </div>
        <div className="w-24">
          <Field label="Along" words value={typed.along} choices={AXES} onChange={(along) => set({ along })} />
        </div>
        <div className="w-60">
          <Field label="Against" words value={typed.abscissa} choices={ABSCISSAE} onChange={(abscissa) => set({ abscissa })} />
        </div>
        <div className="w-44">
          <Field label={`Name towards greater ${third}`} words value={typed.greater} onChange={(greater) => set({ greater })} />
        </div>
        <div className="w-44">
          <Field label={`Name towards lesser ${third}`} words value={typed.lesser} onChange={(lesser) => set({ lesser })} />
        </div>
        <button type="submit" className="btn quiet">
          Cut it
        </button>
      </form>
      {mistake ? <p className="mistake">{mistake}</p> : null}
      {found ? <Cut {...p} typed={typed} set={(change) => setTyped({ ...typed, ...change })} found={found} /> : null}
    </section>
  );
}

interface CutProps extends Props {
  readonly typed: TypedCuts;
  /** of entries that change nothing of the cut itself */
  readonly set: (change: Partial<TypedCuts>) => void;
  readonly found: StationCurves;
}

/** The curves that were cut, and how they are kept. */
function Cut({ runId, label, record, typed, set, found }: CutProps) {
  const [coefficient, setCoefficient] = useState(false);
  const [replace, setReplace] = useState(false);
  const { save, busy, mistakes } = useSave();
  const keep = async () => {
    const { names, stations, ...asked } = askedOf(typed);
    const input = {
      ...asked,
      names: [...names] as [string, string],
      stations: [...stations],
      replace,
      ...(coefficient ? { coefficient: { density: typed.density, speed: typed.speed } } : {}),
    };
    const told = await save(
      "POST /runs/{id}/surface/curves",
      { at: { id: runId }, input },
      `The curves are kept with ${label}; Comparison has them.`,
    );
    for (const note of told?.notes ?? []) notify(note);
  };
  return (
    <>
      {found.notes.map((n) => (
        <p key={n} className="text-[12px] text-ink-2">
          {n}
        </p>
      ))}
      <div className="mt-6">
        <Drawing svg={pictureOf(found)} name={`${READ[typed.of]} along cuts of ${label}`} of={record.file.name} wide />
      </div>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        {typed.of === "temperature" ? null : (
          <label className="flex items-center gap-2 text-[12.5px]">
            <input type="checkbox" checked={coefficient} onChange={(e) => setCoefficient(e.target.checked)} /> keep them over the dynamic pressure
          </label>
        )}
        {coefficient && typed.of !== "temperature" ? (
          <>
            <div className="w-36">
              <Field label="Density" value={typed.density} onChange={(density) => set({ density })} mistake={mistakes.density} />
            </div>
            <div className="w-32">
              <Field label="Speed" value={typed.speed} onChange={(speed) => set({ speed })} mistake={mistakes.speed} />
            </div>
          </>
        ) : null}
        <label className="flex items-center gap-2 text-[12.5px]">
          <input type="checkbox" checked={replace} onChange={(e) => setReplace(e.target.checked)} /> replace curves of these names
        </label>
        <button type="button" className="btn" disabled={busy} onClick={() => void keep()}>
          Keep {found.curves.length} curves with {label}
        </button>
        <CsvButton
          name={`cuts of ${label}`}
          header={["curve", found.curves[0].abscissa.name, found.curves[0].value.name]}
          rows={found.curves.flatMap((c) => c.abscissa.values.map((x, k) => [c.name, x, c.value.values[k]]))}
        />
      </div>
      <p className="mt-1 text-[11.5px] text-ink-3">
        A yardstick’s curve of the same name stands beside it at Comparison: a table with a column “{typed.greater}” and a station column “
        {"xyz"[Number(typed.across)]}”, in metres, has it.
      </p>
    </>
  );
}

/** curves told apart in one picture */
const MOST_DRAWN = 12;
const NAME_PX = 17;
const HEIGHT = 300;

function pictureOf({ curves }: StationCurves): string {
  const [{ abscissa, value }] = curves;
  const shown = curves.slice(0, MOST_DRAWN);
  const [low = 0, high = 0] = extent(shown.flatMap((c) => c.value.values));
  const range = high - low || 1;
  // Room above the curves for their names.
  const room = (range * shown.length * NAME_PX) / Math.max(60, HEIGHT - 70 - shown.length * NAME_PX);
  return drawChart({
    title: `${value.name} along cuts`,
    width: 720,
    height: HEIGHT,
    x: { label: `${abscissa.name}${abscissa.unit === "1" ? "" : `, ${abscissa.unit}`}` },
    y: { label: `${value.name}${value.unit === "1" ? "" : `, ${value.unit}`}`, domain: [low - 0.04 * range, high + room] },
    series: shown.map((c) => ({ name: c.name, kind: "line", points: c.abscissa.values.map((x, k) => [x, c.value.values[k]] as const) })),
    legend: true,
  });
}
