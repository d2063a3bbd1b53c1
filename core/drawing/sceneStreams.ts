import { cutGrid } from "../dataset/cutGrid.ts";
import type { Grid } from "../dataset/grid.ts";
import { END_WORDS, type LineEnd, type Streamline, streamline } from "../dataset/streamline.ts";
import { cross, minus, plus, size, times, type Vector } from "../dataset/vector.ts";
import type { SceneAsked, Seeds } from "./sceneAsked.ts";
import { tried } from "./sceneLayers.ts";
import { entryOf, type Volume } from "./volume.ts";

/** lines one scene may have */
const MOST_LINES = 400;

/** Lines along a velocity, and what the field that is shown is along them. */
export interface Streams {
  /** ends of stretches */
  readonly places: number[];
  readonly values: number[];
  /** how many ended how */
  readonly ends: readonly { readonly end: LineEnd; readonly count: number }[];
}

/** Follows the lines that are asked for, both what they met and where they could not begin said. */
export function streamsOf(volume: Volume, asked: SceneAsked, notes: string[]): Streams {
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
