import { clipPolygons } from "../dataset/clipPolygons.ts";
import { cutGrid, NoCut, type Plane, planeWords } from "../dataset/cutGrid.ts";
import type { Grid, GridArray } from "../dataset/grid.ts";
import { isoSurface } from "../dataset/isoSurface.ts";
import { type Integral, integralOver } from "../dataset/polygonIntegrals.ts";
import { END_WORDS, type LineEnd, type Streamline, streamline } from "../dataset/streamline.ts";
import { AXES, cross, minus, plus, size, times, type Vector } from "../dataset/vector.ts";
import { type FieldColors, fieldColor } from "./fieldRaster.ts";
import { type ArrayKey, entryOf, type Volume } from "./volume.ts";

/** Where lines begin, in the grid's unit. */
export type Seeds =
  | { readonly from: "point"; readonly at: Vector }
  | { readonly from: "line"; readonly at: Vector; readonly to: Vector; readonly count: number }
  /** spread over the first cut */
  | { readonly from: "cut"; readonly count: number };

/** What of a volume is to be drawn. */
export interface SceneAsked {
  /** what colours show; without it the outside is plain */
  readonly colour?: ArrayKey & { readonly component: number | "size" };
  /** values of cells brought to points, so that colours are even between them */
  readonly smooth: boolean;
  /** over what the colours reach: what is seen, all there is, or values that were typed */
  readonly range: "seen" | "whole" | readonly [number, number];
  readonly outside: "whole" | "outline";
  /** only cells where a field lies between two values; the outside is then that of these cells */
  readonly keep?: ArrayKey & { readonly component: number | "size"; readonly low: number; readonly high: number };
  readonly planes: readonly Plane[];
  /** number of the plane above which everything is cut away */
  readonly clip?: number;
  readonly level?: ArrayKey & { readonly component: number | "size"; readonly value: number };
  readonly lines?: { readonly of: ArrayKey; readonly seeds: Seeds; readonly sense: "with" | "against" | "both" };
  /** arrows of a vector on the cuts */
  readonly arrows?: ArrayKey;
  /** lines of equal value on what is coloured, so many */
  readonly equal: number;
  /** a half model with its mirror image beside it, for looking: across an axis, 0 is x, in the grid's unit */
  readonly mirror?: { readonly axis: 0 | 1 | 2; readonly at: number };
}

/** Triangles to be drawn, about the origin, the farthest corner of the whole volume at a distance of 1. */
export interface ScenePart {
  readonly what: "outside" | "cut" | "level";
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

interface Layer {
  readonly what: ScenePart["what"];
  readonly number: number;
  readonly grid: Grid;
}

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

/** The field that is shown, on the points or the cells of what is drawn, under one name. */
const SHOWN = "shown";

/** A grid with no other field than the one that is shown, of one component. */
function carrying(volume: Volume, { colour, smooth }: SceneAsked): Pick<Grid, "onPoints" | "onCells"> {
  if (!colour) return { onPoints: [], onCells: [] };
  const onPoints = colour.on === "points" || smooth;
  const array = onPoints ? volume.onPoints(colour) : volume.find(colour);
  const values = Float64Array.from({ length: array.values.length / array.components }, (_, k) => entryOf(array, k, colour.component));
  const shown: GridArray = { name: SHOWN, components: 1, values };
  return onPoints ? { onPoints: [shown], onCells: [] } : { onPoints: [], onCells: [shown] };
}

function layersOf(volume: Volume, asked: SceneAsked, notes: string[]): Layer[] {
  const fields = carrying(volume, asked);
  const kept = asked.keep && keptCells(volume, asked.keep);
  const grid: Grid = { ...volume.grid, ...fields, notes: [], ...(kept ? { kinds: volume.grid.kinds.map((k, c) => (kept[c] ? k : LEFT_OUT)) } : {}) };
  if (kept && asked.keep) notes.push(keptWords(volume, asked.keep, kept));
  const layers: Layer[] = [];
  const clip = asked.clip === undefined ? undefined : asked.planes[asked.clip];
  const keep = (what: Layer["what"], number: number, own: Grid, clipped: boolean) => {
    const left = clip && clipped ? clipPolygons(own, aboveOf(own, clip)).grid : own;
    if (left.kinds.length) layers.push({ what, number, grid: left });
  };
  if (asked.outside === "whole") {
    const { skin, skinOf, skinPoint } = kept ? volume.skinAround(kept) : volume;
    const onCells = fields.onCells.map((a) => ({ ...a, values: Float64Array.from(skinOf, (c) => a.values[c]) }));
    const onPoints = fields.onPoints.map((a) => ({ ...a, values: Float64Array.from(skinPoint, (q) => a.values[q]) }));
    keep("outside", 0, { ...skin, onPoints, onCells }, true);
  }
  asked.planes.forEach((plane, k) => {
    const cut = tried(() => cutGrid(grid, plane, volume.tree), notes);
    if (!cut) return;
    notes.push(`Cut ${k + 1} at ${planeWords(plane)}: ${cut.kinds.length} cells.`);
    keep("cut", k, cut, k !== asked.clip);
  });
  if (asked.level) {
    const { level } = asked;
    const array = volume.onPoints(level);
    const values = Float64Array.from({ length: array.values.length / array.components }, (_, k) => entryOf(array, k, level.component));
    const cut = tried(() => isoSurface(grid, volume.tree, values, level.value, level.name), notes);
    if (cut) {
      notes.push(
        `Surface of ${level.name} ${level.value}${level.on === "cells" ? ", its cell values brought to the points" : ""}: ${cut.kinds.length} polygons.`,
      );
      keep("level", 0, cut, true);
    }
  }
  return layers;
}

/** Kind that is no cell in space: such cells are passed over. */
const LEFT_OUT = 1;

/** Which cells are kept: values on points count as the mean of the cell's corners. */
function keptCells(volume: Volume, keep: NonNullable<SceneAsked["keep"]>): Uint8Array {
  const { grid } = volume;
  const array = volume.find(keep);
  const kept = new Uint8Array(grid.kinds.length);
  for (let c = 0; c < kept.length; c++) {
    let v = 0;
    if (keep.on === "cells") v = entryOf(array, c, keep.component);
    else
      for (let k = grid.cellStart[c]; k < grid.cellStart[c + 1]; k++)
        v += entryOf(array, grid.corners[k], keep.component) / (grid.cellStart[c + 1] - grid.cellStart[c]);
    kept[c] = v >= keep.low && v <= keep.high ? 1 : 0;
  }
  return kept;
}

function keptWords(volume: Volume, { name, on, low, high }: NonNullable<SceneAsked["keep"]>, kept: Uint8Array): string {
  const count = kept.reduce((n, k) => n + k, 0);
  return `${count} of ${volume.grid.kinds.length} cells have ${name}${on === "points" ? ", as the mean of their corners," : ""} from ${low} to ${high}.`;
}

function tried(make: () => Grid, notes: string[]): Grid | undefined {
  try {
    return make();
  } catch (error) {
    if (!(error instanceof NoCut)) throw error;
    notes.push(error.message);
    return undefined;
  }
}

const aboveOf =
  ({ points }: Grid, { normal, through }: Plane) =>
  (q: number): number =>
    normal[0] * (points[3 * q] - through[0]) + normal[1] * (points[3 * q + 1] - through[1]) + normal[2] * (points[3 * q + 2] - through[2]);

const fieldOn = ({ onPoints, onCells }: Grid): readonly [GridArray | undefined, GridArray | undefined] => [
  onPoints.find((a) => a.name === SHOWN),
  onCells.find((a) => a.name === SHOWN),
];

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

/** lines one scene may have */
const MOST_LINES = 400;

interface Streams {
  /** ends of stretches */
  readonly places: number[];
  readonly values: number[];
  readonly ends: SpaceScene["ends"];
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

function streamsOf(volume: Volume, asked: SceneAsked, notes: string[]): Streams {
  const { lines } = asked;
  if (!lines) return { places: [], values: [], ends: [] };
  const velocity = volume.onPoints(lines.of);
  let fastest = 0;
  for (let k = 0; k < velocity.values.length / 3; k++) fastest = Math.max(fastest, entryOf(velocity, k, "size") || 0);
  const seeds = seedsOf(volume, asked, lines.seeds);
  const senses = lines.sense === "both" ? ([1, -1] as const) : ([lines.sense === "with" ? 1 : -1] as const);
  const found: Streamline[] = [];
  let outside = 0;
  for (const seed of seeds) {
    const own = senses.map((sense) => streamline(volume.finder, velocity, seed, sense, fastest));
    if (own.every((l) => l === undefined)) outside++;
    found.push(...own.filter((l) => l !== undefined));
  }
  const [places, values]: [number[], number[]] = [[], []];
  const colour = asked.colour;
  const field = colour && volume.onPoints(colour);
  const out = new Float64Array(Math.max(3, field?.components ?? 1));
  for (const line of found) {
    const value = Array.from({ length: line.times.length }, (_, k) => {
      if (!field || !colour) return Number.NaN;
      const inside = volume.finder.valueAt([line.places[3 * k], line.places[3 * k + 1], line.places[3 * k + 2]], field, out);
      return inside ? entryOf({ name: "", components: field.components, values: out }, 0, colour.component) : Number.NaN;
    });
    for (let k = 0; k + 1 < line.times.length; k++) {
      places.push(...line.places.subarray(3 * k, 3 * k + 6));
      values.push(value[k], value[k + 1]);
    }
  }
  const ends = (Object.keys(END_WORDS) as LineEnd[]).map((end) => ({ end, count: found.filter((l) => l.end === end).length })).filter((e) => e.count);
  if (lines.of.on === "cells") notes.push(`Lines follow ${lines.of.name} with its cell values brought to the points.`);
  if (found.length) notes.push(`Of ${found.length} lines ${ends.map((e) => `${e.count} ${END_WORDS[e.end]}`).join(", ")}.`);
  if (outside) notes.push(`${outside} of ${seeds.length} places where lines were to begin lie in no cell.`);
  return { places, values, ends };
}

/** Places where lines begin. */
function seedsOf(volume: Volume, asked: SceneAsked, seeds: Seeds): Vector[] {
  const count = (n: number) => Math.max(1, Math.min(MOST_LINES, Math.round(n)));
  if (seeds.from === "point") return [seeds.at];
  if (seeds.from === "line") {
    const n = count(seeds.count);
    const share = (k: number) => (n === 1 ? 0.5 : k / (n - 1));
    return Array.from({ length: n }, (_, k) => plus(times(seeds.at, 1 - share(k)), times(seeds.to, share(k))));
  }
  const plane = asked.planes[0];
  if (!plane) return [];
  const cut = tried(() => cutGrid({ ...volume.grid, onPoints: [], onCells: [] }, plane, volume.tree), []);
  return cut ? spreadOver(cut, count(seeds.count)) : [];
}

/** Middles of polygons, so many, spread evenly over their area. */
function spreadOver(cut: Grid, count: number): Vector[] {
  const middles: Vector[] = [];
  const sums: number[] = [];
  let sum = 0;
  for (let c = 0; c < cut.kinds.length; c++) {
    const own = Array.from(
      cut.corners.subarray(cut.cellStart[c], cut.cellStart[c + 1]),
      (q): Vector => [cut.points[3 * q], cut.points[3 * q + 1], cut.points[3 * q + 2]],
    );
    middles.push(times(own.reduce(plus), 1 / own.length));
    for (let k = 1; k + 1 < own.length; k++) sum += size(cross(minus(own[k], own[0]), minus(own[k + 1], own[0]))) / 2;
    sums.push(sum);
  }
  const out: Vector[] = [];
  for (let k = 0, c = 0; k < count; k++) {
    while (sums[c] < ((k + 0.5) * sum) / count) c++;
    out.push(middles[c]);
  }
  return [...new Set(out)];
}

/** arrows over the first cut's longer side */
const ARROWS = 18;
/** length of the longest arrow, in spacings, and of its head in its own length */
const REACH = 0.9;
const HEAD = 0.28;

/** Arrows at places a raster apart on the cuts, the longest nearly as long as the raster is wide. */
function arrowsOf(volume: Volume, asked: SceneAsked, layers: readonly Layer[]): number[] {
  if (!asked.arrows) return [];
  const vector = volume.onPoints(asked.arrows);
  const spacing = (2 * volume.radius) / ARROWS / 1.6;
  const taken = new Set<string>();
  const found: { readonly at: Vector; readonly v: Vector; readonly normal: Vector }[] = [];
  for (const { what, number, grid } of layers) {
    if (what !== "cut") continue;
    const { normal } = asked.planes[number];
    for (const q of grid.corners) {
      const at: Vector = [grid.points[3 * q], grid.points[3 * q + 1], grid.points[3 * q + 2]];
      const key = `${number} ${at.map((x) => Math.round(x / spacing)).join(" ")}`;
      if (taken.has(key)) continue;
      const out = new Float64Array(3);
      if (!volume.finder.valueAt(at, vector, out)) continue;
      taken.add(key);
      found.push({ at, v: [out[0], out[1], out[2]], normal });
    }
  }
  const longest = found.reduce((m, f) => Math.max(m, size(f.v)), 0);
  if (!(longest > 0)) return [];
  return found.flatMap(({ at, v, normal }) => {
    const own = times(v, (REACH * spacing) / longest);
    const tip = plus(at, own);
    const side = times(cross(own, times(normal, 1 / size(normal))), HEAD / 2);
    const back = minus(tip, times(own, HEAD));
    return [at, tip, tip, plus(back, side), tip, minus(back, side)].flat();
  });
}

/** Lines of equal value, even between the ends of the colours, where values lie on points. */
function equalLines(layers: readonly Layer[], { equal }: SceneAsked, [low, high]: readonly [number, number]): number[] {
  if (!(equal > 0 && high > low)) return [];
  const levels = Array.from({ length: Math.min(50, equal) }, (_, k) => low + ((k + 1) * (high - low)) / (equal + 1));
  const out: number[] = [];
  for (const { grid } of layers) {
    const [points] = fieldOn(grid);
    if (!points) continue;
    const { cellStart, corners } = grid;
    const place = (q: number): Vector => [grid.points[3 * q], grid.points[3 * q + 1], grid.points[3 * q + 2]];
    for (let c = 0; c < grid.kinds.length; c++)
      for (let k = cellStart[c] + 1; k + 1 < cellStart[c + 1]; k++) {
        const own = [corners[cellStart[c]], corners[k], corners[k + 1]];
        for (const level of levels) {
          const met = own.flatMap((q, m): Vector[] => {
            const next = own[(m + 1) % 3];
            const [a, b] = [points.values[q], points.values[next]];
            if (a < level === b < level) return [];
            const s = (level - a) / (b - a);
            return [plus(times(place(q), 1 - s), times(place(next), s))];
          });
          if (met.length === 2) out.push(...met[0], ...met[1]);
        }
      }
  }
  return out;
}

/** A line through the volume: values at places along it. */
export interface LineProfile {
  /** way from the first end, in the grid's unit */
  readonly way: readonly number[];
  /** NaN where there is no cell */
  readonly values: readonly number[];
  readonly said: string;
}

/**
 * Values along a straight line.
 * @param count places along it, both ends among them
 * @throws {RangeError} fewer than two places, or a line of no length
 */
export function lineProfile(
  volume: Volume,
  of: ArrayKey & { readonly component: number | "size" },
  smooth: boolean,
  from: Vector,
  to: Vector,
  count: number,
): LineProfile {
  if (!(count >= 2 && size(minus(to, from)) > 0)) throw new RangeError("A line has two ends that differ, and at least two places.");
  const onPoints = of.on === "points" || smooth;
  const array = onPoints ? volume.onPoints(of) : volume.find(of);
  const out = new Float64Array(array.components);
  const length = size(minus(to, from));
  const way = Array.from({ length: count }, (_, k) => (k * length) / (count - 1));
  let missed = 0;
  const values = way.map((s) => {
    const place = plus(from, times(minus(to, from), s / length));
    if (onPoints) {
      if (volume.finder.valueAt(place, array, out)) return entryOf({ ...array, values: out }, 0, of.component);
    } else {
      const cell = volume.finder.cellAt(place);
      if (cell >= 0) return entryOf(array, cell, of.component);
    }
    missed++;
    return Number.NaN;
  });
  const how =
    of.on === "points" ? "values on points, linear between them" : smooth ? "cell values brought to points" : "values of the cells it goes through";
  return { way, values, said: `${how}${missed ? `; ${missed} of ${count} places lie in no cell` : ""}` };
}
