"use client";

import nextDynamic from "next/dynamic";
import { useMemo, useRef, useState } from "react";
import { fieldRange } from "@/core/drawing/fieldRaster";
import { significant, unitText } from "@/core/formatting/number";
import { resolve, scaleText } from "@/core/formatting/scale";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import type { DerivedField } from "@/core/monitors/derived";
import type { MeshSpec, RunSettings } from "@/core/problems/describe/runSettings";
import type { CellField } from "@/core/solver/simulation";
import { ask } from "../engine/engine";
import { useAnswer } from "../engine/useAnswer";
import { FieldCanvas, type Sample, type Under } from "./FieldCanvas";
import { FieldLegend } from "./FieldLegend";
import { FieldExports, FieldTools } from "./FieldTools";
import { LineSample } from "./LineSample";
import { pictureHeight } from "./pictureSize";
import { type Layers, type Stroke, useFieldWork } from "./useFieldWork";
import { useWindow } from "./useWindow";

// What opens at a press is fetched at the press.
const OwnField = nextDynamic(() => import("./OwnField").then((m) => m.OwnField));
const ReachPanel = nextDynamic(() => import("./ReachPanel").then((m) => m.ReachPanel));

/** A field of a run under way, sent as it is computed. */
export interface LiveField {
  readonly name: string;
  readonly names: readonly string[];
  readonly values: Float32Array;
}

interface Props {
  readonly settings: RunSettings;
  /** stored fields of a finished run */
  readonly fields: readonly CellField[] | undefined;
  readonly live: LiveField | undefined;
  readonly chooseLive: (name: string) => void;
  readonly note: string;
  readonly runId: string;
  readonly width?: number;
  /** greatest height, px */
  readonly most?: number;
  /** fields of one time after another: the ends of the colours only widen, so that pictures can be held against one another */
  readonly inTime?: boolean;
}

/** The mesh that was kept with a run's fields; of a run under way, or one older than that, the one its template makes. */
async function meshOfRun(settings: RunSettings, runId: string, finished: boolean): Promise<FaceMesh> {
  if (finished) {
    const kept = await fetch(`/api/runs/${runId}/mesh`);
    if (kept.ok) return ask("unpack", { bytes: new Uint8Array(await kept.arrayBuffer()) });
  }
  return ask("build", { problemId: settings.problemId ?? "", parameters: settings.parameters, spec: settings.mesh as MeshSpec });
}

/** What was computed, cell by cell: any field, as it is or smoothed, with lines, arrows, mesh, probe and line sample. */
export function FieldView(p: Props) {
  const { settings, runId, fields } = p;
  const finished = fields !== undefined;
  const { value: mesh, mistake } = useAnswer(() => meshOfRun(settings, runId, finished), [settings, runId, finished]);
  if (mistake) return <p className="mistake mt-2">The field cannot be shown: {mistake}</p>;
  if (!mesh) return <p className="mt-2 text-[12.5px] text-ink-3">Making the mesh …</p>;
  return <FieldOnMesh {...p} mesh={mesh} />;
}

const EMPTY: Layers = { smooth: false, contours: false, vectors: false, texture: false, streams: false, mesh: false };

/** Values shown, by name: of a finished run any stored or derived field, else the one that comes in. */
function useShown({ fields, live, settings, mesh }: Props & { readonly mesh: FaceMesh }, key: string, own: readonly DerivedField[]) {
  const fits = fields?.length && fields.every((f) => f.values.length === mesh.cellCount) ? fields : undefined;
  const { densityKgM3 = 1, gamma } = settings.parameters;
  const { value: stored } = useAnswer<DerivedField[]>(fits && (() => ask("derive", { mesh, fields: fits, fluid: { densityKgM3, gamma } })), [
    mesh,
    fits,
    densityKgM3,
    gamma,
  ]);
  const all = useMemo(() => stored && [...stored, ...own], [stored, own]);
  const shown = all?.find((f) => f.key === key) ?? all?.[0];
  const liveFits = !fits && live?.values.length === mesh.cellCount ? live : undefined;
  const values: ArrayLike<number> | undefined = shown?.values ?? liveFits?.values;
  const velocity = useMemo(() => {
    const [u, v] = ["u", "v"].map((n) => fits?.find((f) => f.name === n)?.values);
    return u && v ? ([u, v] as const) : undefined;
  }, [fits]);
  return { all, shown, liveFits, values, velocity, unit: shown?.unit ?? "", name: shown?.name ?? liveFits?.name ?? "field" };
}

function FieldOnMesh(p: Props & { readonly mesh: FaceMesh }) {
  const { mesh, width: w = 350, most = 340 } = p;
  const [key, setKey] = useState("speed");
  const [layers, setLayers] = useState(EMPTY);
  const [sampling, setSampling] = useState(false);
  const [sample, setSample] = useState<Sample>();
  const [under, setUnder] = useState<Under>();
  const [own, setOwn] = useState<readonly DerivedField[]>([]);
  const [limit, setLimit] = useState<Stroke>();
  const { all, shown, liveFits, values, velocity, unit, name } = useShown(p, key, own);
  const h = useMemo(() => pictureHeight(mesh, w, most), [mesh, w, most]);
  const canvas = useRef<HTMLCanvasElement>(null);
  const canvases = useMemo(() => [canvas], []);
  const window_ = useWindow(mesh, w, h, canvases);
  const range = useRange(values, shown?.key ?? "", p.inTime ?? false);
  const double = useMemo(() => (values instanceof Float64Array ? values : values && Float64Array.from(values)), [values]);
  const { strokes: lines, slopes } = useFieldWork({ mesh, values: double, range, velocity, layers });
  const strokes = useMemo(() => (limit ? [...lines, limit] : lines), [lines, limit]);
  const legend = scaleText(range);
  const choices = all?.map((f) => [f.key, f.name] as const) ?? liveFits?.names.map((n) => [n, n] as const) ?? [];
  const stored = Boolean(all);
  const hint = sampling ? (sample && !sample.b ? "now the other end" : "press at one end of the line, then at the other") : "";
  return (
    <div data-testid="field-view">
      <div className="flex items-baseline gap-2">
        <FieldChoice
          choices={choices}
          value={stored ? (shown?.key ?? key) : (liveFits?.name ?? "speed")}
          choose={(k) => {
            setKey(k);
            setLimit(undefined);
            if (!stored) p.chooseLive(k);
          }}
        />
        <span className="text-[11.5px] text-ink-3">
          {unitText(unit) ? `${unitText(unit)}, ` : ""}
          {layers.smooth ? "smoothed by slopes" : "cell values"}; {p.note}
        </span>
      </div>
      <FieldCanvas
        canvas={canvas}
        mesh={mesh}
        window={window_}
        width={w}
        height={h}
        values={values}
        double={double}
        slopes={slopes}
        range={range}
        strokes={strokes}
        velocity={velocity}
        layers={layers}
        sampling={sampling}
        sample={sample}
        setSample={setSample}
        setUnder={setUnder}
        label={`${name} from ${legend.whole(range[0])} to ${legend.whole(range[1])} ${unit}. Arrow keys move, plus and minus zoom, 0 shows all.`}
      />
      <FieldLegend range={range} scale={legend} width={w} />
      <p className="h-4 font-mono text-[11.5px] text-ink-2">{under && values ? probeText(under, values, range, unit) : hint}</p>
      <FieldTools
        layers={layers}
        setLayers={setLayers}
        able={ableOf(stored, velocity !== undefined)}
        sampling={sampling}
        setSampling={setSampling}
        canSample={stored}
        showAll={window_.showAll}
      />
      {all ? (
        <More
          mesh={mesh}
          all={all}
          shown={shown}
          show={setLimit}
          made={(f) => {
            setOwn([...own.filter((o) => o.key !== f.key), f]);
            setKey(f.key);
          }}
        />
      ) : null}
      <FieldExports
        name={key}
        runId={p.runId}
        stored={stored}
        picture={() => canvas.current?.toDataURL("image/png") ?? ""}
        strokes={strokes}
        view={window_.view}
        width={w}
        height={h}
      />
      {sample?.b && double ? <LineSample mesh={mesh} values={double} a={sample.a} b={sample.b} name={name} unit={unit} width={w} /> : null}
    </div>
  );
}

const ableOf = (stored: boolean, moving: boolean) => ({
  smooth: stored,
  contours: stored,
  vectors: moving,
  texture: moving,
  streams: moving,
  mesh: true,
});

/** Ends of the colours: of what is shown, or in time of all that was shown of this field. */
function useRange(values: ArrayLike<number> | undefined, key: string, inTime: boolean): [number, number] {
  const widest = useRef<{ readonly key: string; readonly range: [number, number] }>(undefined);
  return useMemo(() => {
    if (!values) return [0, 1];
    const own = fieldRange(values);
    const known = widest.current;
    const range: [number, number] = inTime && known?.key === key ? [Math.min(own[0], known.range[0]), Math.max(own[1], known.range[1])] : own;
    widest.current = { key, range };
    return range;
  }, [values, key, inTime]);
}

interface MoreProps {
  readonly mesh: FaceMesh;
  readonly all: readonly DerivedField[];
  readonly shown: DerivedField | undefined;
  readonly show: (contour: Stroke | undefined) => void;
  readonly made: (field: DerivedField) => void;
}

/** What can be worked out of the fields further: it opens at a press. */
function More({ mesh, all, shown, show, made }: MoreProps) {
  const [opened, setOpened] = useState<"" | "own" | "reach">("");
  return (
    <>
      <div className="no-print mt-1 flex gap-3 text-[11.5px]">
        {(["own", "reach"] as const).map((what) => (
          <button
            key={what}
            type="button"
            className="link"
            aria-expanded={opened === what}
            onClick={() => {
              setOpened(opened === what ? "" : what);
              show(undefined);
            }}
          >
            {what === "own" ? "a formula of your own" : "how far it reaches"}
          </button>
        ))}
      </div>
      {opened === "own" ? <OwnField mesh={mesh} fields={all} made={made} /> : null}
      {opened === "reach" && shown ? (
        <ReachPanel key={shown.key} mesh={mesh} values={shown.values} name={shown.name} unit={shown.unit} show={show} />
      ) : null}
    </>
  );
}

/** Where the pointer is, and the value there. */
const probeText = ({ x, y, cell }: Under, values: ArrayLike<number>, range: [number, number], unit: string) =>
  `x ${significant(x, 4)}  y ${significant(y, 4)} m  cell ${cell}  ${resolve(range, 5)(values[cell])} ${unitText(unit)}`;

function FieldChoice(p: { choices: readonly (readonly [string, string])[]; value: string; choose: (key: string) => void }) {
  return (
    <label className="flex items-baseline gap-1.5">
      <span className="sr-only">Field shown</span>
      <select className="field h-7! py-0! font-[620]" aria-label="Field shown" value={p.value} onChange={(e) => p.choose(e.target.value)}>
        {(p.choices.length ? p.choices : ([["speed", "speed"]] as const)).map(([k, n]) => (
          <option key={k} value={k}>
            {n}
          </option>
        ))}
      </select>
    </label>
  );
}
