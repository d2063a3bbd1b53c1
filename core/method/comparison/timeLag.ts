import { pchipOf } from "../../numeric/pchip.ts";
import type { RisingCurve } from "./front.ts";

/** How far one history runs behind another. */
export interface TimeLag {
  /** simulated less reference: positive where the simulated one comes later */
  readonly lag: number;
  /** root mean square difference as they stand, and with the simulated one moved by the lag */
  readonly before: number;
  readonly after: number;
  /** a place further from it the difference is as good: closer the lag is not known */
  readonly resolution: number;
}

/** share of the common window the lag is looked for within, either way, and places in it */
const REACH = 0.25;
const TRIES = 101;
/** moving must take at least this share of the difference away to be called a lag */
const WORTH = 0.2;

/**
 * Lag between two histories inside the window both cover: the shift at which their mean square difference is least, refined by a parabola.
 * @returns undefined where no shift makes them much more alike, or the best one lies at the end of what is tried
 */
export function timeLag(simulated: RisingCurve, reference: RisingCurve): TimeLag | undefined {
  const { xs, ys } = simulated;
  const [from, to] = [Math.max(xs[0], reference.xs[0]), Math.min(xs[xs.length - 1], reference.xs[reference.xs.length - 1])];
  const reach = REACH * (to - from);
  if (!(reach > 0)) return undefined;
  const read = pchipOf(xs, ys);
  // Every shift is judged by the same points: those that stay inside whatever the shift.
  const used = Array.from(reference.xs).flatMap((x, i) => (x - reach >= xs[0] && x + reach <= xs[xs.length - 1] ? [i] : []));
  if (used.length < 8) return undefined;
  const rms = (lag: number) => Math.sqrt(used.reduce((s, i) => s + (read(reference.xs[i] + lag) - reference.ys[i]) ** 2, 0) / used.length);
  const step = (2 * reach) / (TRIES - 1);
  const tried = Array.from({ length: TRIES }, (_, k) => rms(-reach + k * step));
  const best = tried.indexOf(Math.min(...tried));
  if (best === 0 || best === TRIES - 1) return undefined;
  const [a, b, c] = [best - 1, best, best + 1].map((k) => tried[k] ** 2);
  const bend = a - 2 * b + c;
  const lag = -reach + (best + (bend > 0 ? (a - c) / (2 * bend) : 0)) * step;
  const [before, after] = [rms(0), rms(lag)];
  if (!(after < (1 - WORTH) * before)) return undefined;
  return { lag, before, after, resolution: step / 2 };
}
