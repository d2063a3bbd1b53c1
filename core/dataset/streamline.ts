import { ERROR_WEIGHTS, STAGE_WEIGHTS } from "../numeric/ode.ts";
import { longestOf } from "./cellTree.ts";
import type { Finder } from "./finder.ts";
import type { GridArray } from "./grid.ts";
import type { Vector } from "./vector.ts";

/** Why a line ends where it does. */
export type LineEnd = "left" | "still" | "closed" | "long";

/** A line along a velocity, from its seed with the flow, or against it. */
export interface Streamline {
  /** [x0, y0, z0, ...], in the grid's unit of length */
  readonly places: Float64Array;
  /** time since the seed at each place, in the grid's unit of length over that of the velocity; negative against the flow */
  readonly times: Float64Array;
  readonly end: LineEnd;
}

export const END_WORDS: Readonly<Record<LineEnd, string>> = {
  left: "left the cells",
  still: "came to rest",
  closed: "came back to where they began",
  long: "went on after twelve times the room's longest side",
};

/** error of one step over the longest side of the grid */
const TOLERANCE = 1e-7;
/** length of a line over the longest side */
const LONGEST = 12;
const MOST_STEPS = 20_000;
/** speed, over the greatest, at which the flow is still */
const STILL = 1e-6;

/**
 * Line along a velocity from a place, as long as it stays in the cells.
 * @param velocity three components on points
 * @param sense 1 with the flow, -1 against it
 * @param fastest greatest speed of the field
 * @returns nothing where the seed lies in no cell
 */
export function streamline(finder: Finder, velocity: GridArray, seed: Vector, sense: 1 | -1, fastest: number): Streamline | undefined {
  const side = longestOf(finder.tree);
  const slopes = STAGE_WEIGHTS.map(() => new Float64Array(3));
  if (!finder.valueAt(seed, velocity, slopes[0])) return undefined;
  const [places, times]: [number[], number[]] = [[...seed], [0]];
  let place = seed;
  let [step, length, time, away] = [Number.POSITIVE_INFINITY, 0, 0, false];
  const done = (end: LineEnd): Streamline => ({ places: Float64Array.from(places), times: Float64Array.from(times), end });
  for (let n = 0; n < MOST_STEPS; n++) {
    if (!finder.valueAt(place, velocity, slopes[0])) return done("left");
    const speed = Math.hypot(slopes[0][0], slopes[0][1], slopes[0][2]);
    if (!(speed > STILL * fastest)) return done("still");
    // At most through one cell at a time: between two cells the slope of the field jumps.
    const most = finder.sizeOf(finder.cellAt(place)) / speed;
    const next = stepped(finder, velocity, place, slopes, Math.min(step, most), sense, TOLERANCE * side, side * 1e-9);
    if (!next) return done("left");
    step = next.wish;
    const moved = Math.hypot(next.place[0] - place[0], next.place[1] - place[1], next.place[2] - place[2]);
    length += moved;
    time += sense * next.taken;
    place = next.place;
    places.push(...place);
    times.push(time);
    const back = Math.hypot(place[0] - seed[0], place[1] - seed[1], place[2] - seed[2]);
    if (back > 4 * moved) away = true;
    else if (away && back <= moved && length > 8 * moved) return done("closed");
    if (length > LONGEST * side) return done("long");
  }
  return done("long");
}

/** One step that is as sure as it has to be, and how long the next may be; nothing where even a short one leaves the cells. */
function stepped(
  finder: Finder,
  velocity: GridArray,
  place: Vector,
  slopes: readonly Float64Array[],
  wish: number,
  sense: number,
  allowed: number,
  least: number,
): { readonly place: Vector; readonly taken: number; readonly wish: number } | undefined {
  for (let h = wish; ; ) {
    const inside = tried(finder, velocity, place, slopes, sense * h);
    const error = inside ? h * Math.hypot(...[0, 1, 2].map((d) => combined(slopes, ERROR_WEIGHTS, d))) : Number.POSITIVE_INFINITY;
    const factor = Math.min(4, Math.max(0.2, 0.9 * (allowed / Math.max(error, Number.MIN_VALUE)) ** 0.2));
    if (inside && error <= allowed) return { place: inside, taken: h, wish: h * factor };
    h *= inside ? factor : 0.5;
    if (h * Math.hypot(slopes[0][0], slopes[0][1], slopes[0][2]) < least) return undefined;
  }
}

const combined = (slopes: readonly Float64Array[], weights: readonly number[], d: number): number =>
  weights.reduce((s, w, k) => s + w * slopes[k][d], 0);

function tried(finder: Finder, velocity: GridArray, place: Vector, slopes: readonly Float64Array[], h: number): Vector | undefined {
  let at = place;
  for (let k = 1; k < STAGE_WEIGHTS.length; k++) {
    at = [0, 1, 2].map((d) => place[d] + h * combined(slopes, STAGE_WEIGHTS[k], d)) as unknown as Vector;
    if (!finder.valueAt(at, velocity, slopes[k])) return undefined;
  }
  return at;
}
