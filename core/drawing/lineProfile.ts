import { minus, plus, size, times, type Vector } from "../dataset/vector.ts";
import { type ArrayKey, entryOf, type Volume } from "./volume.ts";

/** A line through the volume, straight or with corners: values at places along it. */
export interface LineProfile {
  /** way from the first end, in the grid's unit */
  readonly way: readonly number[];
  readonly places: readonly Vector[];
  /** NaN where there is no cell */
  readonly values: readonly number[];
  readonly said: string;
}

/**
 * Values along a line from corner to corner.
 * @param corners both ends, and in between where it turns
 * @param count places along it, evenly over the whole way, both ends among them
 * @throws {RangeError} fewer than two places, or two corners after one another that are the same
 */
export function lineProfile(
  volume: Volume,
  of: ArrayKey & { readonly component: number | "size" },
  smooth: boolean,
  corners: readonly Vector[],
  count: number,
): LineProfile {
  const legs = corners.slice(1).map((to, k) => ({ from: corners[k], along: minus(to, corners[k]), length: size(minus(to, corners[k])) }));
  if (!(count >= 2 && legs.length && legs.every((l) => l.length > 0)))
    throw new RangeError("A line has two ends that differ, corners that differ from one another, and at least two places.");
  const onPoints = of.on === "points" || smooth;
  const array = onPoints ? volume.onPoints(of) : volume.find(of);
  const out = new Float64Array(array.components);
  const length = legs.reduce((s, l) => s + l.length, 0);
  const way = Array.from({ length: count }, (_, k) => (k * length) / (count - 1));
  const places = way.map((s) => {
    let [k, begun] = [0, 0];
    while (k < legs.length - 1 && s > begun + legs[k].length) begun += legs[k++].length;
    return plus(legs[k].from, times(legs[k].along, (s - begun) / legs[k].length));
  });
  let missed = 0;
  const values = places.map((place) => {
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
  return { way, places, values, said: `${how}${missed ? `; ${missed} of ${count} places lie in no cell` : ""}` };
}
