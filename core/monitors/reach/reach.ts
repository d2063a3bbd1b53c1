import { grouped } from "../../numeric/grouped.ts";
import { type Around, boxOf, HOLES, holesOf, OFF_BOX, offBox, rimOf } from "./around.ts";

/** Ways out from a body in the plane, as they stand on the screen, and in space, by its axes. */
const WAYS = {
  2: ["left", "right", "below", "above"],
  3: ["−x", "+x", "−y", "+y", "−z", "+z"],
} as const;
export type Way = (typeof WAYS)[2 | 3][number];

/** How far a disturbance reaches on one side of a body. */
export interface ReachOfWay {
  readonly way: Way;
  /** from the body's own end on that side to the farthest place where the departure is at the limit, m; 0 where none lies beyond it */
  readonly extentM: number;
  /** from there to the end of the domain, m */
  readonly roomM: number;
  /** the departure is above the limit at the very end of the domain: how far it reaches is not known */
  readonly cutOff: boolean;
  /** where the departure would fall to the limit if it went on falling as it does on the outer half of the way, m; only where it is cut off and falls */
  readonly expectedM?: number;
}

export interface Reach {
  readonly ways: readonly ReachOfWay[];
  /** cells in which the departure is above the limit, hanging together with the body, and elsewhere */
  readonly cells: number;
  readonly elsewhere: number;
  /** what the lengths are counted in, m: the body's longest side */
  readonly bodyM: number;
  /** departure at the limit, in the field's unit */
  readonly limit: number;
}

/** A disturbance that cannot be measured, in a sentence. */
export class NoReach extends Error {}

/** room kept beyond the disturbance in a domain that is proposed */
const SPARE = 1.2;

/**
 * How far the flow departs from the free stream around a body: the region in which it departs by more than a limit, as far as it hangs together with
 * the body. Where the limit lies is taken linear between the middles of neighbouring cells.
 * @param departure from the value far away, one a cell; NaN counts as none
 * @param limit departure that counts as none, in their unit, above 0
 * @param body name of the boundary that is the body, `HOLES` or `OFF_BOX`
 * @throws {NoReach} there is no such boundary, or the limit is none
 */
export function reachOfDisturbance(around: Around, departure: Float64Array, limit: number, body: string): Reach {
  if (!(limit > 0)) throw new NoReach("A departure needs a limit above 0.");
  const own = facesOf(around, body);
  const [box, room] = [boxOf(around, own), boxOf(around, rimOf(around))];
  const inside = connected(around, departure, limit, own);
  const far = farthest(around, departure, limit, inside, new Set(own));
  let [cells, above] = [0, 0];
  for (let c = 0; c < around.cells; c++) {
    if (departure[c] > limit) above++;
    cells += inside[c];
  }
  const bodyM = Math.max(...Array.from({ length: around.axes }, (_, d) => box[2 * d + 1] - box[2 * d]));
  const ways = WAYS[around.axes].map((way, k): ReachOfWay => {
    const sign = k % 2 ? 1 : -1;
    const extentM = Math.max(0, sign * (far.at[k] - box[k]));
    const roomM = Math.max(0, sign * (room[k] - box[k]));
    const cutOff = far.rim[k] && extentM > 0.98 * roomM && roomM > 0;
    const expectedM = cutOff ? expected(around, departure, limit, inside, k, box[k], roomM) : undefined;
    return { way, extentM, roomM, cutOff, ...(expectedM === undefined ? {} : { expectedM }) };
  });
  return { ways, cells, elsewhere: above - cells, bodyM, limit };
}

/** How far values lie from the one far away. @throws {NoReach} that is no number */
export function departureFrom(values: ArrayLike<number>, free: number): Float64Array {
  if (!Number.isFinite(free)) throw new NoReach("A departure needs a value far away.");
  return Float64Array.from(values, (v) => Math.abs(v - free));
}

/** What a domain should reach beyond the body, in its lengths, in halves; nothing where it is not known. */
export function proposedLengths({ extentM, cutOff, expectedM }: ReachOfWay, bodyM: number): number | undefined {
  const wanted = cutOff ? expectedM : extentM;
  return wanted === undefined ? undefined : Math.ceil((2 * SPARE * wanted) / bodyM) / 2;
}

function facesOf(around: Around, body: string): readonly number[] {
  const own = body === HOLES ? holesOf(around) : body === OFF_BOX ? offBox(around) : around.named(body);
  if (own.length) return own;
  if (body === HOLES) throw new NoReach("The mesh has no hole: say which of its boundaries is the body.");
  if (body === OFF_BOX) throw new NoReach("All of the mesh's rim lies on the box round it: nothing stands in it.");
  throw new NoReach(`The mesh has no boundary "${body}".`);
}

/** Cells above the limit that can be reached from the body through such cells. */
function connected({ cells, faces, owner, neighbour }: Around, departure: Float64Array, limit: number, own: readonly number[]): Uint8Array {
  const { start, entries: beside } = grouped(cells, (tell) => {
    for (let f = 0; f < faces; f++) {
      const [a, b] = [owner(f), neighbour(f)];
      if (b < 0) continue;
      tell(a, b);
      tell(b, a);
    }
  });
  const inside = new Uint8Array(cells);
  const queue: number[] = [];
  const reach = (c: number) => {
    if (inside[c] || !(departure[c] > limit)) return;
    inside[c] = 1;
    queue.push(c);
  };
  for (const f of own) reach(owner(f));
  for (let head = 0; head < queue.length; head++) for (let k = start[queue[head]]; k < start[queue[head] + 1]; k++) reach(beside[k]);
  return inside;
}

/** Farthest places of the region, by way, and whether they lie on the rim of the domain. */
function farthest(around: Around, departure: Float64Array, limit: number, inside: Uint8Array, own: ReadonlySet<number>) {
  const { axes, faces, owner, neighbour, middleM, pointsM, corners } = around;
  const at = Array.from({ length: 2 * axes }, (_, k) => (k % 2 ? Number.NEGATIVE_INFINITY : Number.POSITIVE_INFINITY));
  const rim = new Array<boolean>(2 * axes).fill(false);
  const see = (d: number, v: number, onRim: boolean) => {
    for (const k of [2 * d, 2 * d + 1]) {
      if (k % 2 ? v <= at[k] : v >= at[k]) continue;
      at[k] = v;
      rim[k] = onRim;
    }
  };
  for (let f = 0; f < faces; f++) {
    const [o, n] = [owner(f), neighbour(f)];
    if (n < 0) {
      if (!inside[o] || own.has(f)) continue;
      const list = Array.from(corners(f));
      // A floor below the region ends it downwards, not along itself.
      const out = Array.from({ length: axes }, (_, d) => list.reduce((s, q) => s + pointsM[axes * q + d] / list.length, 0) - middleM[axes * o + d]);
      const least = Math.hypot(...out) / 2;
      for (let d = 0; d < axes; d++) if (Math.abs(out[d]) >= least) for (const q of list) see(d, pointsM[axes * q + d], true);
      continue;
    }
    const [a, b] = inside[o] ? [o, n] : [n, o];
    if (!inside[a] || inside[b]) continue;
    const share = departure[b] < limit ? (departure[a] - limit) / (departure[a] - departure[b]) : 0;
    for (let d = 0; d < axes; d++) see(d, middleM[axes * a + d] + share * (middleM[axes * b + d] - middleM[axes * a + d]), false);
  }
  return { at, rim };
}

const BINS = 12;

/** Where the greatest departure at a distance falls to the limit, as a power of the distance fitted to the outer half of the way. */
function expected(
  { axes, cells, middleM }: Around,
  departure: Float64Array,
  limit: number,
  inside: Uint8Array,
  k: number,
  edge: number,
  roomM: number,
): number | undefined {
  const sign = k % 2 ? 1 : -1;
  const most = new Float64Array(BINS);
  for (let c = 0; c < cells; c++) {
    const d = sign * (middleM[axes * c + (k >> 1)] - edge);
    const bin = Math.floor((2 * BINS * (d - roomM / 2)) / roomM);
    if (inside[c] && bin >= 0 && bin < BINS) most[bin] = Math.max(most[bin], departure[c]);
  }
  const fitted = Array.from(most, (m, b) => [Math.log(roomM * (0.5 + (b + 0.5) / (2 * BINS))), Math.log(m)] as const).filter(([, v]) =>
    Number.isFinite(v),
  );
  if (fitted.length < 4) return undefined;
  const n = fitted.length;
  const [mx, my] = [0, 1].map((i) => fitted.reduce((s, p) => s + p[i], 0) / n);
  const slope = fitted.reduce((s, [x, y]) => s + (x - mx) * (y - my), 0) / fitted.reduce((s, [x]) => s + (x - mx) ** 2, 0);
  // What does not fall, or hardly, tells nothing of where it ends.
  if (!(slope < -0.2)) return undefined;
  return Math.max(roomM, Math.exp(mx + (Math.log(limit) - my) / slope));
}
