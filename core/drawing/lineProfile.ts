import { minus, plus, size, times, type Vector } from "../dataset/vector.ts";
import { type ArrayKey, entryOf, type Volume } from "./volume.ts";

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
