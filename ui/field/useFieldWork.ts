import { useMemo } from "react";
import { contourLines, pointValues } from "@/core/drawing/lineWork";
import { meshLines, type Segments } from "@/core/drawing/meshLines";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import { ask } from "../engine/engine";
import { useAnswer } from "../engine/useAnswer";

const LEVELS = 12;
const SEEDS = 9;

/** What may be drawn over the values. */
export interface Layers {
  readonly smooth: boolean;
  readonly contours: boolean;
  readonly vectors: boolean;
  readonly texture: boolean;
  readonly streams: boolean;
  readonly mesh: boolean;
}

export interface Stroke {
  readonly segments: Segments;
  readonly color: string;
  readonly width: number;
}

interface Shown {
  readonly mesh: FaceMesh;
  /** values shown, as doubles */
  readonly values: Float64Array | undefined;
  readonly range: readonly [number, number];
  readonly velocity: readonly [Float64Array, Float64Array] | undefined;
  readonly layers: Layers;
}

/** Slopes and lines of what is shown, worked out by the page's worker. */
export function useFieldWork({ mesh, values, range, velocity, layers }: Shown) {
  const wantsSlopes = values && (layers.smooth || layers.contours);
  const { value: slopes } = useAnswer(wantsSlopes ? () => ask("slopes", { mesh, values }) : undefined, [mesh, values, Boolean(wantsSlopes)]);
  const wantsStreams = velocity && layers.streams;
  const { value: streams } = useAnswer(
    wantsStreams ? () => ask("streams", { mesh, u: velocity[0], v: velocity[1], seedsAcross: SEEDS }) : undefined,
    [mesh, velocity, Boolean(wantsStreams)],
  );
  const strokes = useMemo(() => {
    const parts: Stroke[] = [];
    if (layers.mesh) parts.push({ segments: meshLines(mesh, "all"), color: "rgba(29,36,39,0.35)", width: 0.5 });
    parts.push({ segments: meshLines(mesh, "boundary"), color: "#1D2427", width: 1 });
    if (layers.contours && values && slopes?.[0].length === mesh.cellCount) {
      const levels = Array.from({ length: LEVELS }, (_, k) => range[0] + ((k + 0.5) / LEVELS) * (range[1] - range[0]));
      parts.push({ segments: contourLines(mesh, values, pointValues(mesh, values, slopes), levels), color: "#1D2427", width: 0.8 });
    }
    if (layers.streams && streams) parts.push({ segments: streams, color: "rgba(255,255,255,0.85)", width: 0.9 });
    return parts;
  }, [mesh, layers, values, slopes, streams, range]);
  return { strokes, slopes: slopes?.[0].length === mesh.cellCount ? slopes : undefined };
}
