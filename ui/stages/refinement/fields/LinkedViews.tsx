"use client";

import { type RefObject, useMemo, useRef, useState } from "react";
import { meshLines } from "@/core/drawing/meshLines";
import { significant, unitText } from "@/core/formatting/number";
import type { StudiedField } from "../../../engine/fieldStudyAsks";
import { FieldCanvas, type Sample, type Under } from "../../../field/FieldCanvas";
import { FieldLegend } from "../../../field/FieldLegend";
import { save } from "../../../field/FieldTools";
import { LineSample } from "../../../field/LineSample";
import { pictureHeight } from "../../../field/pictureSize";
import type { Layers } from "../../../field/useFieldWork";
import { useWindow } from "../../../field/useWindow";
import { firstShown, type Shown, showsOf } from "./shows";

const WIDTH = 376;
const MOST = 330;
const NOTHING: Layers = { smooth: false, contours: false, vectors: false, texture: false, streams: false, mesh: false };

/** Up to four pictures on the common mesh that move, zoom, are probed and sampled together. */
export function LinkedViews({ studied }: { studied: StudiedField }) {
  const { mesh } = studied;
  const [oneScale, setOneScale] = useState(false);
  const shows = useMemo(() => showsOf(studied, oneScale), [studied, oneScale]);
  const [chosen, setChosen] = useState(() => firstShown(shows));
  const [sampling, setSampling] = useState(false);
  const [sample, setSample] = useState<Sample>();
  const [under, setUnder] = useState<Under>();
  const refs = [useRef<HTMLCanvasElement>(null), useRef<HTMLCanvasElement>(null), useRef<HTMLCanvasElement>(null), useRef<HTMLCanvasElement>(null)];
  // biome-ignore lint/correctness/useExhaustiveDependencies: the places are the same at every draw; how many are shown is what changes
  const canvases = useMemo(() => refs.slice(0, chosen.length), [chosen.length]);
  const height = useMemo(() => pictureHeight(mesh, WIDTH, MOST), [mesh]);
  const window_ = useWindow(mesh, WIDTH, height, canvases);
  const strokes = useMemo(() => [{ segments: meshLines(mesh, "boundary"), color: "#1D2427", width: 1 }], [mesh]);
  const pictures = chosen.map((key) => shows.find((s) => s.key === key) ?? shows[0]);
  return (
    <div data-testid="linked-views">
      <div className="no-print mt-2 flex gap-3 text-[11.5px]">
        <button type="button" className="link" aria-pressed={sampling} onClick={() => setSampling(!sampling)}>
          {sampling ? "end sampling" : "sample a line through all"}
        </button>
        <button type="button" className="link" onClick={window_.showAll}>
          show all
        </button>
        <label className="flex items-center gap-1">
          <input type="checkbox" checked={oneScale} onChange={() => setOneScale(!oneScale)} />
          all changes on one scale
        </label>
        <span className="text-ink-3">
          {sampling
            ? sample && !sample.b
              ? "now the other end"
              : "press at one end of the line, then at the other"
            : "Drag, wheel and keys move all of them."}
        </span>
      </div>
      <div className="mt-1 flex flex-wrap gap-x-5 gap-y-3">
        {pictures.map((shown, k) => (
          <figure key={canvasKey(k)} className="min-w-0" style={{ width: WIDTH }}>
            <Choice k={k} shows={shows} shown={shown} choose={(key) => setChosen(chosen.map((c, i) => (i === k ? key : c)))} />
            <FieldCanvas
              canvas={refs[k]}
              mesh={mesh}
              window={window_}
              width={WIDTH}
              height={height}
              values={shown.painted}
              double={shown.painted}
              slopes={undefined}
              range={shown.range}
              colors={shown.colors}
              strokes={strokes}
              velocity={undefined}
              layers={NOTHING}
              sampling={sampling}
              sample={sample}
              setSample={setSample}
              setUnder={setUnder}
              label={`${shown.name} from ${shown.whole(shown.range[0])} to ${shown.whole(shown.range[1])} ${shown.unit}. Arrow keys move, plus and minus zoom, 0 shows all.`}
            />
            <FieldLegend range={shown.range} scale={shown} width={WIDTH} colors={shown.colors} />
            <p className="flex h-4 justify-between font-mono text-[11.5px] text-ink-2">
              <span>{under ? probeText(shown, under) : <span className="font-sans text-ink-3">{shown.note}</span>}</span>
              <PictureButton canvas={refs[k]} name={shown.key} />
            </p>
            {sample?.b ? (
              <LineSample mesh={mesh} values={shown.values} a={sample.a} b={sample.b} name={shown.name} unit={shown.unit} width={WIDTH} />
            ) : null}
          </figure>
        ))}
      </div>
    </div>
  );
}

const canvasKey = (k: number): string => `picture-${k}`;

function probeText({ values, unit }: Shown, { x, y, cell }: Under): string {
  const v = values[cell];
  return `x ${significant(x, 4)}  y ${significant(y, 4)} m  ${Number.isNaN(v) ? "none" : `${significant(v, 4)} ${unitText(unit)}`}`;
}

function Choice({ k, shows, shown, choose }: { k: number; shows: readonly Shown[]; shown: Shown; choose: (key: string) => void }) {
  return (
    <figcaption className="flex items-baseline gap-1.5">
      <select
        className="field h-7! py-0! font-[620]"
        aria-label={`Picture ${k + 1} shows`}
        value={shown.key}
        onChange={(e) => choose(e.target.value)}
      >
        {shows.map((s) => (
          <option key={s.key} value={s.key}>
            {s.name}
          </option>
        ))}
      </select>
      <span className="text-[11.5px] text-ink-3">{unitText(shown.unit)}</span>
    </figcaption>
  );
}

function PictureButton({ canvas, name }: { canvas: RefObject<HTMLCanvasElement | null>; name: string }) {
  return (
    <button type="button" className="link no-print font-sans" onClick={() => save(canvas.current?.toDataURL("image/png") ?? "", `${name}.png`)}>
      PNG
    </button>
  );
}
