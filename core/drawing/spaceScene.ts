import { cutGrid } from "../dataset/cutGrid.ts";
import type { Grid, GridArray } from "../dataset/grid.ts";
import { type Integral, integralOver } from "../dataset/polygonIntegrals.ts";
import type { LineEnd } from "../dataset/streamline.ts";
import { AXES, type Vector } from "../dataset/vector.ts";
import { type FieldColors, fieldColor } from "./fieldRaster.ts";
import type { SceneAsked } from "./sceneAsked.ts";
import { fieldOn, type Layer, layersOf, tried } from "./sceneLayers.ts";
import { arrowsOf, equalLines } from "./sceneLines.ts";
import { streamsOf } from "./sceneStreams.ts";
import { entryOf, type Volume } from "./volume.ts";

/** Triangles to be drawn, about the origin, the farthest corner of the whole volume at a distance of 1. */
export interface ScenePart {
  readonly what: Layer["what"];
  /** which cut it is */
  readonly number: number;
  readonly positions: Float32Array;
  readonly colors: Uint8Array;
  readonly edges: Float32Array;
}

export interface SceneLines {
  readonly positions: Float32Array;
  readonly colors: Uint8Array;
}

/** A scene ready to be drawn. */
export interface SpaceScene {
  readonly parts: readonly ScenePart[];
  readonly outline: Float32Array;
  /** along the velocity, in the colours of the legend */
  readonly streams: SceneLines;
  readonly arrows: Float32Array;
  readonly equal: Float32Array;
  /** ends of the colours as they are, and as they would be by what is seen */
  readonly range: readonly [number, number];
  readonly natural: readonly [number, number];
  readonly scheme: FieldColors;
  /** it shows values; else it is plain */
  readonly coloured: boolean;
  /** what was done, in sentences */
  readonly notes: readonly string[];
  /** what the field that is shown comes to over each cut, the whole vector where it has one; whatever was cut away counts as well */
  readonly integrals: readonly CutIntegral[];
  /** lengths of the lines and how they ended */
  readonly ends: readonly { readonly end: LineEnd; readonly count: number }[];
}

/** A field over a cut. */
export interface CutIntegral extends Integral {
  /** which cut it is, from 0 */
  readonly number: number;
  readonly name: string;
}

const PALE = [214, 211, 200] as const;
const GAP = [150, 148, 140] as const;

/**
 * Lays out what is to be seen of a volume. What cannot be shown, such as a plane beside the cells, is said and left out.
 * @throws {RangeError} a field that is not there
 */
export function spaceScene(volume: Volume, asked: SceneAsked): SpaceScene {
  const notes: string[] = [];
  const layers = layersOf(volume, asked, notes);
  const streams = streamsOf(volume, asked, notes);
  const natural = asked.range === "whole" ? wholeRange(volume, asked) : seenRange(layers, streams.values);
  const chosen = asked.range === "seen" || asked.range === "whole" ? natural : asked.range;
  const scheme: FieldColors = chosen[0] < 0 && chosen[1] > 0 ? "signed" : "even";
  const far = Math.max(-chosen[0], chosen[1]);
  const range: readonly [number, number] = scheme === "signed" ? [-far, far] : chosen;
  const paint = (v: number) => {
    if (!Number.isFinite(v)) return GAP;
    return fieldColor(range[1] > range[0] ? (v - range[0]) / (range[1] - range[0]) : 0.5, scheme);
  };
  const frame = frameOf(volume);
  const { mirror } = asked;
  if (mirror)
    notes.push(`Mirrored at ${AXES[mirror.axis]} ${mirror.at} for looking: nothing of the image is counted, and no line was followed in it.`);
  const drawn = (places: ArrayLike<number>) => withImage(framed(places, frame), mirror, frame);
  const colors = Uint8Array.from(Array.from(streams.values).flatMap((v) => [...paint(v)]));
  return {
    parts: layers.map((l) => partOf(l, frame, asked.colour ? paint : undefined)).map((p) => mirrored(p, mirror, frame)),
    outline: drawn(volume.outline()),
    streams: { positions: drawn(streams.places), colors: mirror ? twice(colors) : colors },
    arrows: drawn(arrowsOf(volume, asked, layers)),
    equal: drawn(equalLines(layers, asked, range)),
    range,
    natural,
    scheme,
    coloured: asked.colour !== undefined,
    notes,
    integrals: integralsOf(volume, asked),
    ends: streams.ends,
  };
}

/** Over whole cuts, nothing cut away: what flows through a section is asked of all of it. */
function integralsOf(volume: Volume, { colour, keep, planes }: SceneAsked): CutIntegral[] {
  if (!colour || keep) return [];
  const array = volume.find(colour);
  const carried: Grid = { ...volume.grid, onPoints: colour.on === "points" ? [array] : [], onCells: colour.on === "cells" ? [array] : [] };
  return planes.flatMap((plane, number): CutIntegral[] => {
    const cut = tried(() => cutGrid(carried, plane, volume.tree), []);
    const own = cut && (colour.on === "points" ? cut.onPoints : cut.onCells)[0];
    return cut && own ? [{ number, name: colour.name, ...integralOver(cut, own, colour.on, plane.normal) }] : [];
  });
}

interface Frame {
  readonly middle: Vector;
  readonly radius: number;
}

export const frameOf = ({ middle, radius }: Volume): Frame => ({ middle, radius });

function framed(places: ArrayLike<number>, { middle, radius }: Frame): Float32Array {
  const out = new Float32Array(places.length);
  for (let i = 0; i < out.length; i++) out[i] = (places[i] - middle[i % 3]) / radius;
  return out;
}

/** Places, and behind them their mirror images. */
function withImage(positions: Float32Array, mirror: SceneAsked["mirror"], { middle, radius }: Frame): Float32Array {
  if (!mirror) return positions;
  const out = new Float32Array(2 * positions.length);
  out.set(positions);
  const at = (mirror.at - middle[mirror.axis]) / radius;
  for (let i = 0; i < positions.length; i++) out[positions.length + i] = i % 3 === mirror.axis ? 2 * at - positions[i] : positions[i];
  return out;
}

function twice(colors: Uint8Array): Uint8Array {
  const out = new Uint8Array(2 * colors.length);
  out.set(colors);
  out.set(colors, colors.length);
  return out;
}

function mirrored(part: ScenePart, mirror: SceneAsked["mirror"], frame: Frame): ScenePart {
  if (!mirror) return part;
  const { positions, colors, edges } = part;
  return { ...part, positions: withImage(positions, mirror, frame), colors: twice(colors), edges: withImage(edges, mirror, frame) };
}

function seenRange(layers: readonly Layer[], more: ArrayLike<number>): [number, number] {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const see = (v: number) => {
    if (v < low) low = v;
    if (v > high) high = v;
  };
  for (const { grid } of layers) {
    const [points, cells] = fieldOn(grid);
    if (points) for (const q of grid.corners) see(points.values[q]);
    else if (cells) for (const v of cells.values) see(v);
  }
  for (let k = 0; k < more.length; k++) see(more[k]);
  return low <= high ? [low, high] : [0, 0];
}

function wholeRange(volume: Volume, { colour }: SceneAsked): [number, number] {
  if (!colour) return [0, 0];
  const array = volume.find(colour);
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let k = 0; k < array.values.length / array.components; k++) {
    const v = entryOf(array, k, colour.component);
    if (v < low) low = v;
    if (v > high) high = v;
  }
  return low <= high ? [low, high] : [0, 0];
}

function partOf({ what, number, grid }: Layer, frame: Frame, paint: ((v: number) => readonly number[]) | undefined): ScenePart {
  const { cellStart, corners, kinds } = grid;
  const [points, cells] = fieldOn(grid);
  const places = framed(grid.points, frame);
  let triangles = 0;
  for (let c = 0; c < kinds.length; c++) triangles += cellStart[c + 1] - cellStart[c] - 2;
  const positions = new Float32Array(9 * triangles);
  const colors = new Uint8Array(9 * triangles);
  const edges = new Float32Array(6 * corners.length);
  let [at, edge] = [0, 0];
  const put = (q: number, c: number) => {
    const color = paint && (points || cells) ? paint(points ? points.values[q] : (cells as GridArray).values[c]) : PALE;
    for (let d = 0; d < 3; d++) {
      positions[at] = places[3 * q + d];
      colors[at++] = color[d];
    }
  };
  for (let c = 0; c < kinds.length; c++) {
    const [from, to] = [cellStart[c], cellStart[c + 1]];
    for (let k = from + 1; k + 1 < to; k++) for (const q of [corners[from], corners[k], corners[k + 1]]) put(q, c);
    for (let k = from; k < to; k++)
      for (const q of [corners[k], corners[k + 1 < to ? k + 1 : from]]) for (let d = 0; d < 3; d++) edges[edge++] = places[3 * q + d];
  }
  return { what, number, positions, colors, edges };
}
