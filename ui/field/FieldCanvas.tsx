"use client";

import { type RefObject, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { cellsUnderPixels, paintCells, paintSmooth, type Window } from "@/core/drawing/cellRaster";
import type { FieldColors } from "@/core/drawing/fieldRaster";
import { textured } from "@/core/drawing/lineTexture";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import { ask } from "../engine/engine";
import { useAnswer } from "../engine/useAnswer";
import { strokeArrows, strokeSegments } from "./strokes";
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
  const ids = useMemo(() => cellsUnderPixels(mesh, resting), [mesh, resting]);
  const bitmap = useRef<HTMLCanvasElement>(undefined);
  const [painted, setPainted] = useState(0);

  const texture = useTexture(mesh, layers.texture ? velocity : undefined, resting);

  // The picture at rest; while it is moved the last one is drawn where it belongs by then.
  useEffect(() => {
    if (!values) return;
    const picture = bitmap.current ?? document.createElement("canvas");
    bitmap.current = picture;
    picture.width = resting.width;
    picture.height = resting.height;
    const smooth = layers.smooth && double && slopes;
    const ends = [...range] as [number, number];
    const rgba = smooth ? paintSmooth(ids, resting, mesh.centroidM, double, [...slopes], ends) : paintCells(ids, values, ends, colors);
    if (texture?.length === ids.length) textured(rgba, texture, ids);
    picture.getContext("2d")?.putImageData(new ImageData(rgba, resting.width, resting.height), 0, 0);
    setPainted((n) => n + 1);
  }, [ids, values, range, resting, layers.smooth, double, slopes, mesh, colors, texture]);

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
    if (painted && bitmap.current && values) {
      const scale = resting.pixelM / view.pixelM;
      const top = py(resting.y0 + resting.height * resting.pixelM);
      context.drawImage(bitmap.current, px(resting.x0), top, resting.width * scale, resting.height * scale);
    }
    for (const part of strokes) strokeSegments(context, part.segments, px, py, part.color, part.width);
    if (layers.vectors && velocity) strokeArrows(context, ids, resting, velocity[0], velocity[1], px, py);
    if (sample) strokeSegments(context, [...sample.a, ...(sample.b ?? sample.a)], px, py, "#A3341F", 1.6);
  }, [canvas, view, resting, strokes, values, w, h, layers.vectors, velocity, ids, sample, painted]);
  useEffect(() => {
    const frame = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(frame);
  }, [draw]);
  const pointer = usePointer(p, ids);
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

/** A texture along the flow for the picture at rest, worked out by the page's worker. */
function useTexture(mesh: FaceMesh, velocity: Props["velocity"], resting: Window): Uint8Array | undefined {
  return useAnswer(velocity && (() => ask("texture", { mesh, u: velocity[0], v: velocity[1], view: resting })), [mesh, velocity, resting]).value;
}

/** Dragging, sampling and what lies under the pointer. */
function usePointer({ window: shown, sampling, sample, setSample, setUnder }: Props, ids: Int32Array) {
  const drag = useRef<{ x: number; y: number; from: typeof shown.view } | undefined>(undefined);
  const { resting } = shown;
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
      const [x, y] = shown.place(e);
      const i = Math.floor((x - resting.x0) / resting.pixelM);
      const row = resting.height - 1 - Math.floor((y - resting.y0) / resting.pixelM);
      const cell = i >= 0 && i < resting.width && row >= 0 && row < resting.height ? ids[row * resting.width + i] : -1;
      setUnder(cell >= 0 ? { x, y, cell } : undefined);
    },
    onPointerUp: () => {
      drag.current = undefined;
    },
    onPointerLeave: () => setUnder(undefined),
  };
}
