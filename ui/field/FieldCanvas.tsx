"use client";

import { type RefObject, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { cellAt, paintCells, paintSmooth, type Window } from "@/core/drawing/cellRaster";
import type { FieldColors } from "@/core/drawing/fieldRaster";
import { textured } from "@/core/drawing/lineTexture";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import { ask } from "../engine/engine";
import { useAnswer } from "../engine/useAnswer";
import { slicesWithin, strokeArrows, strokeSegments } from "./strokes";
import type { Layers, Stroke } from "./useFieldWork";
import type { useWindow } from "./useWindow";

/** A line that is being sampled: its first end, and its second once it was given. */
export interface Sample {
  readonly a: readonly [number, number];
  readonly b?: readonly [number, number];
}

/** Where the pointer stands, and over which cell. */
export interface Under {
  readonly x: number;
  readonly y: number;
  readonly cell: number;
}

interface Props {
  readonly canvas: RefObject<HTMLCanvasElement | null>;
  readonly mesh: FaceMesh;
  readonly window: ReturnType<typeof useWindow>;
  readonly width: number;
  readonly height: number;
  readonly values: ArrayLike<number> | undefined;
  readonly double: Float64Array | undefined;
  readonly slopes: readonly [Float64Array, Float64Array] | undefined;
  readonly range: readonly [number, number];
  readonly strokes: readonly Stroke[];
  readonly velocity: readonly [Float64Array, Float64Array] | undefined;
  readonly layers: Layers;
  readonly sampling: boolean;
  readonly sample: Sample | undefined;
  readonly setSample: (s: Sample) => void;
  readonly setUnder: (u: Under | undefined) => void;
  readonly label: string;
  readonly colors?: FieldColors;
}

/** The picture of a field: painted cell by cell at rest, moved as it is meanwhile. */
export function FieldCanvas(p: Props) {
  const { canvas, mesh, window: shown, width: w, height: h, values, double, slopes, range, strokes, velocity, layers, sample, colors } = p;
  const { view, resting } = shown;
  const raster = useRaster(mesh, resting);
  const texture = useTexture(mesh, layers.texture ? velocity : undefined, raster);
  // The picture at rest; while it is moved the last one is drawn where it belongs by then.
  const picture = useMemo((): Picture | undefined => {
    if (!values || !raster) return undefined;
    const { ids, view: at } = raster;
    const smooth = layers.smooth && double && slopes;
    const ends = [...range] as [number, number];
    const rgba = smooth ? paintSmooth(ids, at, mesh.centroidM, double, [...slopes], ends) : paintCells(ids, values, ends, colors);
    if (texture?.length === ids.length) textured(rgba, texture, ids);
    const made = document.createElement("canvas");
    made.width = at.width;
    made.height = at.height;
    made.getContext("2d")?.putImageData(new ImageData(rgba, at.width, at.height), 0, 0);
    return { canvas: made, view: at };
  }, [raster, values, range, layers.smooth, double, slopes, mesh, colors, texture]);
  const ink = useInk(strokes, resting);

  const draw = useCallback(() => {
    const context = canvas.current?.getContext("2d");
    if (!context || !canvas.current) return;
    const ratio = globalThis.devicePixelRatio || 1;
    canvas.current.width = w * ratio;
    canvas.current.height = h * ratio;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.fillStyle = "#fff";
    context.fillRect(0, 0, w, h);
    context.imageSmoothingEnabled = false;
    const px = (x: number) => (x - view.x0) / view.pixelM;
    const py = (y: number) => h - (y - view.y0) / view.pixelM;
    for (const part of [picture, ink]) {
      if (!part) continue;
      const { x0, y0, pixelM, width, height } = part.view;
      const scale = pixelM / view.pixelM;
      context.drawImage(part.canvas, px(x0), py(y0 + height * pixelM), width * scale, height * scale);
    }
    if (layers.vectors && velocity && raster) strokeArrows(context, raster.ids, raster.view, velocity[0], velocity[1], px, py);
    if (sample) strokeSegments(context, [...sample.a, ...(sample.b ?? sample.a)], px, py, "#A3341F", 1.6);
  }, [canvas, view, picture, ink, w, h, layers.vectors, velocity, raster, sample]);
  useEffect(() => {
    const frame = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(frame);
  }, [draw]);
  const pointer = usePointer(p, raster);
  return (
    <canvas
      ref={canvas}
      style={{ width: w, height: h }}
      className={`mt-1.5 touch-none border border-tin ${p.sampling ? "cursor-crosshair" : "cursor-grab"}`}
      {...pointer}
      onDoubleClick={shown.showAll}
      onKeyDown={shown.keys}
      tabIndex={0}
      role="img"
      aria-label={p.label}
    />
  );
}

/** Something drawn for a part of the plane. */
interface Picture {
  readonly canvas: HTMLCanvasElement;
  readonly view: Window;
}

/** Which cell lies under each pixel of a part of the plane. */
interface Raster {
  readonly ids: Int32Array;
  readonly view: Window;
}

/** Cells under the pixels of the picture at rest, worked out by the page's worker; the last ones until it answers, unless they are of another mesh. */
function useRaster(mesh: FaceMesh, resting: Window): Raster | undefined {
  const { value } = useAnswer(async () => ({ ids: await ask("under", { mesh, view: resting }), view: resting, mesh }), [mesh, resting]);
  return value?.mesh === mesh ? value : undefined;
}

/** A texture along the flow for the same pixels. */
function useTexture(mesh: FaceMesh, velocity: Props["velocity"], raster: Raster | undefined): Uint8Array | undefined {
  const wanted = velocity && raster && (() => ask("texture", { mesh, u: velocity[0], v: velocity[1], view: raster.view }));
  return useAnswer(wanted, [mesh, velocity, raster]).value;
}

/** straight pieces drawn before the page has its turn again */
const PIECES_A_TURN = 6000;

/** Lines over the picture at rest, drawn a few thousand pieces at a time: a mesh of a hundred thousand cells would hold the page up at every move. */
function useInk(strokes: readonly Stroke[], view: Window): Picture | undefined {
  const [ink, setInk] = useState<Picture>();
  useEffect(() => {
    const ratio = globalThis.devicePixelRatio || 1;
    const canvas = document.createElement("canvas");
    canvas.width = view.width * ratio;
    canvas.height = view.height * ratio;
    const context = canvas.getContext("2d");
    if (!context) return;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const px = (x: number) => (x - view.x0) / view.pixelM;
    const py = (y: number) => view.height - (y - view.y0) / view.pixelM;
    const parts = strokes.flatMap((s) => slicesWithin(s.segments, view, PIECES_A_TURN).map((segments) => ({ ...s, segments })));
    let [next, frame] = [0, 0];
    const turn = () => {
      const part = parts[next++];
      if (part) strokeSegments(context, part.segments, px, py, part.color, part.width);
      if (next < parts.length) frame = requestAnimationFrame(turn);
      else setInk({ canvas, view });
    };
    turn();
    return () => cancelAnimationFrame(frame);
  }, [strokes, view]);
  return ink;
}

/** Dragging, sampling and what lies under the pointer. */
function usePointer({ window: shown, sampling, sample, setSample, setUnder }: Props, raster: Raster | undefined) {
  const drag = useRef<{ x: number; y: number; from: typeof shown.view } | undefined>(undefined);
  const last = useRef<readonly [number, number]>(undefined);
  const tell = useCallback(
    ([x, y]: readonly [number, number]) => {
      const cell = raster ? cellAt(raster, x, y) : -1;
      setUnder(cell >= 0 ? { x, y, cell } : undefined);
    },
    [raster, setUnder],
  );
  // A pointer that rests hears of its cell as soon as it is known.
  useEffect(() => {
    if (last.current) tell(last.current);
  }, [tell]);
  return {
    onPointerDown: (e: React.PointerEvent<HTMLCanvasElement>) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      if (!sampling) {
        drag.current = { x: e.clientX, y: e.clientY, from: shown.view };
        return;
      }
      const at = shown.place(e);
      setSample(sample && !sample.b ? { a: sample.a, b: at } : { a: at });
    },
    onPointerMove: (e: React.PointerEvent<HTMLCanvasElement>) => {
      const d = drag.current;
      if (d) {
        shown.drag(d.from, e.clientX - d.x, e.clientY - d.y);
        return;
      }
      last.current = shown.place(e);
      tell(last.current);
    },
    onPointerUp: () => {
      drag.current = undefined;
    },
    onPointerLeave: () => {
      last.current = undefined;
      setUnder(undefined);
    },
  };
}
