"use client";

import { useState } from "react";
import { percent, significant } from "@/core/formatting/number";
import { resolve } from "@/core/formatting/scale";
import { POINT_READINGS, type PointReading, type SurfacePoint, type SurfacePoints } from "@/core/intake/surfacePoints";
import type { SurfaceRecord } from "@/core/records/surfaces";
import { asChoices, Field } from "../forms/Field";
import { useSave } from "../forms/useSave";
import { notify, sentenceOf } from "../shell/notify";
import { CsvButton } from "../tables/CsvButton";
import { type Column, DataTable } from "../tables/DataTable";
import { askSpace } from "./askSpace";
import { differencesOf } from "./differences";
import { placeText } from "./placeText";

interface Props {
  readonly runId: string;
  readonly label: string;
  readonly record: SurfaceRecord;
  readonly conditions: Readonly<Record<string, number>>;
  /** what was read, to be shown on the surface; nothing where it is gone */
  readonly show: (found: SurfacePoints | undefined) => void;
}

interface Opened {
  readonly name: string;
  readonly text: string;
  readonly found: SurfacePoints;
}

/** Readings at points of the surface: shown on it on one scale, told point by point, and kept with what was computed there. */
export function MeasuredPoints({ runId, label, record, conditions, show }: Props) {
  const readable = POINT_READINGS.filter((of) => record.said.arrays.some((a) => a.role === of));
  const [of, setOf] = useState<PointReading>(readable[0]);
  const [opened, setOpened] = useState<Opened>();
  const [mistake, setMistake] = useState("");
  const [shown, setShown] = useState(true);
  if (!readable.length) return null;
  const open = async (name: string, text: string, reading: PointReading) => {
    const { said, found: known } = record;
    try {
      const found = await askSpace("points", { said, unitM: known.unitM, densityKgM3: conditions.densityKgM3 ?? 1, of: reading, text });
      setOpened({ name, text, found });
      setShown(true);
      show(found.points.some((p) => p.measured !== undefined) ? found : undefined);
      setMistake("");
    } catch (error) {
      setOpened(undefined);
      show(undefined);
      setMistake(sentenceOf(error));
    }
  };
  return (
    <section className="mt-4" aria-label="Measured points">
      <h3>Measured points</h3>
      <div className="flex flex-wrap items-end gap-3">
        <div>
          <label htmlFor="points-file" className="block">
            A table with x, y, z and what was measured there
          </label>
          <input
            id="points-file"
            type="file"
            accept=".csv,.txt,.dat,.tsv"
            className="block text-[12px]"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (file) void file.text().then((text) => open(file.name, text, of));
            }}
          />
        </div>
        <div className="w-40">
          <Field
            label="It is"
            words
            value={of}
            choices={asChoices(readable)}
            onChange={(next) => {
              setOf(next);
              if (opened) void open(opened.name, opened.text, next);
            }}
          />
        </div>
      </div>
      {mistake ? <p className="mistake">{mistake}</p> : null}
      {opened?.found.points.some((p) => p.measured !== undefined) ? (
        <label className="mt-3 flex min-h-6 items-center gap-1 text-[12.5px]">
          <input
            type="checkbox"
            checked={shown}
            onChange={() => {
              setShown(!shown);
              show(shown ? undefined : opened.found);
            }}
          />{" "}
          shown on the surface, in the colours of its scale
        </label>
      ) : null}
      {opened ? <Found key={`${opened.name} ${opened.found.of}`} runId={runId} label={label} length={record.said.length} {...opened} /> : null}
    </section>
  );
}

type Row = SurfacePoint & { readonly k: number };

function Found({ runId, label, length, name, text, found }: Opened & { readonly runId: string; readonly label: string; readonly length: string }) {
  const { points, unit } = found;
  const told = differencesOf(points);
  return (
    <>
      {found.notes.map((n) => (
        <p key={n} className="text-[12px] text-ink-2">
          {n}
        </p>
      ))}
      {told ? (
        <p className="text-[12.5px]">
          Computed less measured over {told.count} points: mean {significant(told.mean, 3)}, root mean square {significant(told.rms, 3)} {unit} (
          {percent(told.ofRange)} of what was measured from least to greatest), the largest {significant(told.worst.difference, 3)} {unit} on line{" "}
          {told.worst.line}.
        </p>
      ) : null}
      <div className="max-h-[260px] overflow-auto">
        <DataTable rows={points.map((p, k) => ({ ...p, k }))} rowKey={(p) => String(p.k)} columns={columnsOf(points, unit, length)} />
      </div>
      <Keep runId={runId} label={label} file={{ name, text }} found={found} />
    </>
  );
}

function columnsOf(points: readonly SurfacePoint[], unit: string, length: string): readonly Column<Row>[] {
  const scale = resolve(points.flatMap((p) => [p.computed, ...(p.measured === undefined ? [] : [p.measured])]));
  return [
    { header: "Point", cell: (p) => p.k + 1 },
    { header: `At, ${length}`, cell: (p) => placeText(p.at) },
    { header: `Measured, ${unit}`, cell: (p) => (p.measured === undefined ? "–" : scale(p.measured)) },
    { header: `Computed, ${unit}`, cell: (p) => scale(p.computed) },
    { header: "Difference", cell: (p) => (p.measured === undefined ? "–" : scale(p.computed - p.measured)) },
    { header: "Off the surface, m", cell: (p) => (p.apartM < 1e-9 ? "0" : significant(p.apartM, 2)) },
  ];
}

/** Both sides for the comparison: what was computed with the run, what was measured as a yardstick. */
function Keep({
  runId,
  label,
  file,
  found,
}: {
  readonly runId: string;
  readonly label: string;
  readonly file: { name: string; text: string };
  readonly found: SurfacePoints;
}) {
  const [name, setName] = useState(found.name || `${found.of} at points`);
  const [source, setSource] = useState("");
  const [uncertainty, setUncertainty] = useState("");
  const [replace, setReplace] = useState(false);
  const { save, busy, mistakes } = useSave();
  const measured = found.points.every((p) => p.measured !== undefined);
  const keep = () => {
    const input = { file, of: found.of, name, replace, ...(measured && source.trim() ? { yardstick: { source, uncertainty } } : {}) };
    void save("POST /runs/{id}/surface/points", { at: { id: runId }, input }, `The points are kept with ${label}; Comparison has them.`).then(
      (told) => {
        for (const note of told?.notes ?? []) notify(note);
      },
    );
  };
  return (
    <div className="mt-1 flex flex-wrap items-end gap-3">
      <div className="w-44">
        <Field label="Name of the curve over them" words value={name} onChange={setName} mistake={mistakes.name} />
      </div>
      {measured ? (
        <>
          <div className="w-60">
            <Field label="Source of the readings" words value={source} onChange={setSource} placeholder="without one they are no yardstick" />
          </div>
          <div className="w-40">
            <Field label={`Each is known to, ${found.unit}, 95 %`} value={uncertainty} onChange={setUncertainty} mistake={mistakes.uncertainty} />
          </div>
        </>
      ) : null}
      <label className="flex items-center gap-2 text-[12.5px]">
        <input type="checkbox" checked={replace} onChange={(e) => setReplace(e.target.checked)} /> replace a curve of this name
      </label>
      <button type="button" className="btn quiet" disabled={busy} onClick={keep}>
        Keep the points with {label}
      </button>
      <CsvButton
        name={`points of ${label}`}
        header={["point", "line", "x", "y", "z", `measured, ${found.unit}`, `computed, ${found.unit}`, "off the surface, m"]}
        rows={found.points.map((p, k) => [k + 1, p.line, ...p.at, p.measured ?? "", p.computed, p.apartM])}
      />
    </div>
  );
}
