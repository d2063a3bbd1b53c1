"use client";

import { type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import type { PatchRecipe } from "@/core/dataset/patches";
import type { Painted, SurfaceDrawing } from "@/core/drawing/surfaceDrawing";
import { resolve, scaleText } from "@/core/formatting/scale";
import type { SurfaceLook } from "@/core/intake/surfaceLook";
import { saveFile } from "../charts/saveFile";
import { useAnswer } from "../engine/useAnswer";
import { FieldLegend } from "../field/FieldLegend";
import { askSpace } from "./askSpace";
import type { PaintedAsSaid } from "./asks";
import { Dimensions } from "./Dimensions";
import { type Dot, Dots } from "./Dots";
import { type Camera, type Colours, FIRST_LOOK, SurfaceScene } from "./scene";
import { type ShownLayers, ViewControls } from "./ViewControls";
import { cameraKeys, pictureOf, useDrag, useStage, useWheel } from "./viewing";

/** A face that was pressed, or that the pointer is over. */
export interface PickedFace {
  readonly face: number;
  readonly piece: number;
  readonly name: string;
}

interface Props {
  readonly look: SurfaceLook;
  readonly recipe: PatchRecipe;
  /** what it is painted by at first */
  readonly first: Painted["by"];
  /** the file's unit of length */
  readonly unit: string;
  readonly title: string;
  /** lines over the surface, in the file's unit */
  readonly lines?: readonly (readonly (readonly [number, number, number])[])[];
  /** they are seen through what stands before them */
  readonly through?: boolean;
  /** the mesh is shown from the beginning */
  readonly meshShown?: boolean;
  /** points with values on the scale of the colours; while there are any it is painted by `painted` */
  readonly dots?: { readonly points: readonly Dot[]; readonly painted: PaintedAsSaid; readonly words: string; readonly unit: string };
  readonly picked?: (face: PickedFace) => void;
  readonly width: number;
  readonly height: number;
}

const keyOf = (p: Painted): string => (p.by === "array" ? `${p.on} ${p.component} ${p.name}` : p.by);

/** What a surface can be painted by, with the words for it. */
function choicesOf(look: SurfaceLook): readonly (readonly [Painted, string])[] {
  const arrays = look.arrays.flatMap((a): (readonly [Painted, string])[] => {
    const own = (component: number | "size", words: string) => [{ by: "array", on: a.on, name: a.name, component } as const, words] as const;
    if (a.components === 1) return [own(0, a.name)];
    return [own("size", `${a.name}, size`), ...Array.from({ length: Math.min(3, a.components) }, (_, d) => own(d, `${a.name}, ${"xyz"[d]}`))];
  });
  return [[{ by: "patches" }, "patches"], [{ by: "pieces" }, "pieces"], ...arrays];
}

/** A surface in space: turned by mouse or keys, painted by its patches or by what is known on it. */
export function SpaceView(p: Props) {
  const choices = useMemo(() => choicesOf(p.look), [p.look]);
  const [painted, setPainted] = useState<Painted>(() => choices.find(([c]) => c.by === p.first)?.[0] ?? choices[0][0]);
  const shown = p.dots?.painted ?? painted;
  const { value, mistake } = useAnswer(() => askSpace("draw", { recipe: p.recipe, painted: shown }), [p.look, p.recipe, shown]);
  if (mistake) return <p className="mistake">{mistake}</p>;
  return (
    <section aria-label={`View of ${p.title}`} data-testid="space-view">
      <label className="flex items-baseline gap-1.5">
        <span className="sr-only">Painted by</span>
        <select
          className="field h-7! w-60! py-0! font-[620]"
          aria-label="Painted by"
          disabled={p.dots !== undefined}
          value={keyOf(painted)}
          onChange={(e) => setPainted(choices.find(([c]) => keyOf(c) === e.target.value)?.[0] ?? painted)}
        >
          {choices.map(([c, words]) => (
            <option key={keyOf(c)} value={keyOf(c)}>
              {words}
            </option>
          ))}
        </select>
        <span className="text-[11.5px] text-ink-3">
          {p.dots ? `shown is ${p.dots.words}, computed on the surface, measured in the points` : howShown(painted)}
        </span>
      </label>
      {value ? <Shown {...p} drawing={value.drawing} painted={painted} /> : <p className="text-[12.5px] text-ink-3">Laying the surface out …</p>}
    </section>
  );
}

/** Whether values are as they are in the file: smoothing hides the mesh. */
const howShown = (painted: Painted): string =>
  painted.by !== "array"
    ? "lit, to show their shape"
    : painted.on === "cells"
      ? "values on faces, as they are"
      : "values at corners, even between them";

const SURFACE = (at: HTMLCanvasElement, colours: Colours) => new SurfaceScene(at, colours);

function Shown({ drawing, painted, ...p }: Props & { readonly drawing: SurfaceDrawing; readonly painted: Painted }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { scene, mistake } = useStage(canvas, p.width, p.height, SURFACE);
  const [camera, setCamera] = useState<Camera>(FIRST_LOOK);
  const [layers, setLayers] = useState({ mesh: p.meshShown ?? false, outline: true, size: true });
  const [under, setUnder] = useState<PickedFace>();
  useEffect(() => {
    scene?.show(drawing);
    scene?.draw();
  }, [scene, drawing]);
  const { lines, through = false } = p;
  useEffect(() => {
    scene?.mark(stretchesOf(lines ?? [], drawing), through);
    scene?.draw();
  }, [scene, drawing, lines, through]);
  useEffect(() => {
    scene?.layers(layers);
    scene?.look(camera);
    scene?.draw();
  }, [scene, camera, layers]);
  const faceAt = (e: PointerEvent): PickedFace | undefined => {
    const box = canvas.current?.getBoundingClientRect();
    if (!box || !scene) return undefined;
    const t = scene.under((2 * (e.clientX - box.left)) / box.width - 1, 1 - (2 * (e.clientY - box.top)) / box.height);
    if (t === undefined) return undefined;
    const face = drawing.faceOf[t];
    return { face, piece: drawing.pieceOf[face], name: drawing.names[drawing.nameOf[face]] ?? "" };
  };
  const drag = useDrag(p.height, setCamera, (e) => {
    const found = faceAt(e);
    if (found) p.picked?.(found);
  });
  const keys = cameraKeys(camera, setCamera);
  const unit = p.dots
    ? p.dots.unit
    : painted.by === "array"
      ? (p.look.arrays.find((a) => a.name === painted.name && a.on === painted.on)?.unit ?? "")
      : "";
  useWheel(canvas, setCamera);
  if (mistake) return <p className="mistake">{mistake}</p>;
  return (
    <>
      <div className="relative border border-line bg-sheet" style={{ width: p.width, height: p.height }}>
        <canvas
          ref={canvas}
          tabIndex={0}
          role="img"
          aria-label={`${p.title}, ${sayPainted(drawing, unit)}. Arrow keys turn it, with shift they move it, plus and minus zoom, 0 shows all.`}
          className="block cursor-grab touch-none"
          style={{ width: p.width, height: p.height }}
          onKeyDown={keys}
          {...drag}
          onPointerMove={(e) => {
            drag.onPointerMove(e);
            if (!e.buttons) setUnder(faceAt(e));
          }}
          onPointerLeave={() => setUnder(undefined)}
        />
        {p.dots && scene ? <Dots dots={p.dots.points} drawing={drawing} scene={scene} camera={camera} width={p.width} height={p.height} /> : null}
        {layers.size && scene ? <Dimensions drawing={drawing} scene={scene} camera={camera} unit={p.unit} width={p.width} height={p.height} /> : null}
      </div>
      {drawing.range ? (
        <FieldLegend
          range={[drawing.range[0], drawing.range[1]]}
          scale={scaleText([drawing.range[0], drawing.range[1]])}
          width={p.width}
          colors={drawing.scheme}
        />
      ) : null}
      <p className="h-4 font-mono text-[11.5px] text-ink-2">{under ? sayFace(under, drawing, unit) : ""}</p>
      <Tools {...p} camera={camera} setCamera={setCamera} layers={layers} setLayers={setLayers} picture={() => pictureOf(scene)} />
    </>
  );
}

/** Lines as they are drawn, stretch by stretch. */
const stretchesOf = (lines: NonNullable<Props["lines"]>, { middle, radius }: SurfaceDrawing): Float32Array =>
  Float32Array.from(
    lines.flatMap((l) => l.slice(1).flatMap((q, k) => [...l[k], ...q])),
    (v, i) => (v - middle[i % 3]) / radius,
  );

const sayPainted = ({ range, names }: SurfaceDrawing, unit: string): string =>
  range
    ? `values from ${scaleText([range[0], range[1]]).whole(range[0])} to ${scaleText([range[0], range[1]]).whole(range[1])} ${unit}`
    : names.length
      ? `patches ${names.join(", ")}`
      : "no piece has a name";

function sayFace({ face, piece, name }: PickedFace, { values, range }: SurfaceDrawing, unit: string): string {
  const value = values && range ? `  ${resolve([range[0], range[1]], 5)(values[face])} ${unit}` : "";
  return `face ${face}  piece ${piece + 1}${name ? ` “${name}”` : ", without a name"}${value}`;
}

function Tools(
  p: Props & {
    readonly camera: Camera;
    readonly setCamera: (c: Camera) => void;
    readonly layers: ShownLayers;
    readonly setLayers: (l: ShownLayers) => void;
    readonly picture: () => Promise<Blob | null>;
  },
) {
  const write = async (as: "stl" | "vtp") => {
    const bytes = await askSpace("write", { recipe: p.recipe, as, title: p.title });
    saveFile(p.title, as, new Blob([bytes as BlobPart]), "application/octet-stream");
  };
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-2.5 text-[12px]">
      <ViewControls camera={p.camera} setCamera={p.setCamera} layers={p.layers} setLayers={p.setLayers} />
      <span className="ml-auto flex gap-3">
        <button type="button" className="link" onClick={() => void p.picture().then((b) => b && saveFile(p.title, "png", b, "image/png"))}>
          PNG
        </button>
        <button type="button" className="link" onClick={() => void write("vtp")}>
          VTP with patches
        </button>
        <button type="button" className="link" onClick={() => void write("stl")}>
          STL
        </button>
      </span>
    </div>
  );
}
