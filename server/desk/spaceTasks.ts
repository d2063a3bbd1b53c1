import type { Vector } from "../../core/dataset/vector.ts";
import { lineProfile } from "../../core/drawing/lineProfile.ts";
import { type ArrayKey, Volume } from "../../core/drawing/volume.ts";
import { readGridFile } from "../../core/formats/surface/readAny.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { type GridFile, gridBytes, inWords, inWordsLater } from "./gridBytes.ts";
import type { Tell } from "./told.ts";

export interface LineThrough extends GridFile {
  readonly of: ArrayKey;
  readonly component: number | "size";
  readonly smooth: boolean;
  /** metres of the file's unit of length */
  readonly unitM: number;
  readonly from: Vector;
  /** corners between the ends */
  readonly by: readonly Vector[];
  readonly to: Vector;
  readonly count: number;
  readonly against: "way" | "x" | "y" | "z";
}

/**
 * Values of a file in space along a line; places that lie in no cell are left out, and said.
 * @returns abscissa in metres
 * @throws {UseCaseError} no such field, no line, fewer than two places inside, or a coordinate that does not change along it
 */
export async function lineThrough(
  { of, component, smooth, unitM, from, by, to, count, against, ...file }: LineThrough,
  tell: Tell,
): Promise<{ readonly abscissa: number[]; readonly values: number[]; readonly said: string }> {
  tell({ done: 0, of: 2, what: "Reading the file" });
  const bytes = await gridBytes(file);
  const grid = await inWordsLater(() => readGridFile(bytes));
  const volume = inWords(() => new Volume(grid));
  tell({ done: 1, of: 2, what: "Reading along the line" });
  const { way, places, values, said } = plainly(() => lineProfile(volume, { ...of, component }, smooth, [from, ...by, to], count));
  const axis = against === "way" ? -1 : "xyz".indexOf(against);
  const sense = axis < 0 ? 1 : Math.sign(to[axis] - from[axis]);
  if (axis >= 0 && !places.every((p, k) => k === 0 || sense * (p[axis] - places[k - 1][axis]) > 0))
    throw new UseCaseError("invalid", `${against} does not go one way all along the line; take another abscissa.`);
  const at = (k: number) => unitM * (axis < 0 ? way[k] : places[k][axis]);
  const kept = way.map((_, k) => k).filter((k) => Number.isFinite(values[k]));
  if (kept.length < 2) throw new UseCaseError("invalid", `${kept.length} of ${count} places of the line lie in a cell: there is no curve.`);
  return { abscissa: kept.map(at), values: kept.map((k) => values[k]), said };
}

/** A field that is not there, or a line that is none, in its own words. */
function plainly<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof RangeError) throw new UseCaseError("invalid", error.message);
    throw error;
  }
}
