import { type FaceMesh, neighbourStarts } from "../mesh/faceMesh.ts";

/** Ways out from a body, as they stand on the screen. */
export const WAYS = ["left", "right", "below", "above"] as const;
export type Way = (typeof WAYS)[number];

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
  /** what the lengths are counted in, m: the body's longer side */
  readonly bodyM: number;
  /** departure at the limit, in the field's unit */
  readonly limit: number;
}

/** in place of a boundary's name: whatever stands inside the mesh */
export const HOLES = "";

/** A disturbance that cannot be measured, in a sentence. */
export class NoReach extends Error {}

/** room kept beyond the disturbance in a domain that is proposed */
const SPARE = 1.2;

/**
 * How far the flow departs from the free stream around a body: the region in which it departs by more than a limit, as far as it hangs together with
 * the body. Where the limit lies is taken linear between the middles of neighbouring cells.
 * @param values one a cell
 * @param free value far away, in their unit
 * @param limit departure that counts as none, in their unit, above 0
 * @param body name of the boundary that is the body, or `HOLES`
 * @throws {NoReach} there is no such boundary, or the limit is none
 */
export function reachOfDisturbance(mesh: FaceMesh, values: ArrayLike<number>, free: number, limit: number, body: string): Reach {
  if (!(limit > 0) || !Number.isFinite(free)) throw new NoReach("A departure needs a value far away, and a limit above 0.");
  const own = body === HOLES ? holes(mesh) : facesOf(mesh, body);
  const departure = Float64Array.from(values, (v) => Math.abs(v - free));
  const rim = Array.from({ length: mesh.faceCount - mesh.joinCount }, (_, k) => mesh.joinCount + k);
  const [box, room] = [boxOf(mesh, own), boxOf(mesh, rim)];
  const inside = connected(mesh, departure, limit, own);
  const far = farthest(mesh, departure, limit, inside, new Set(own));
  let cells = 0;
  let above = 0;
  for (let c = 0; c < mesh.cellCount; c++) {
    if (departure[c] > limit) above++;
    cells += inside[c];
  }
  const bodyM = Math.max(box[1] - box[0], box[3] - box[2]);
  const ways = WAYS.map((way, k): ReachOfWay => {
    const sign = k % 2 ? 1 : -1;
    const extentM = Math.max(0, sign * (far.at[k] - box[k]));
    const roomM = Math.max(0, sign * (room[k] - box[k]));
    const cutOff = far.rim[k] && extentM > 0.98 * roomM && roomM > 0;
    const expectedM = cutOff ? expected(mesh, departure, limit, inside, k, box[k], roomM) : undefined;
    return { way, extentM, roomM, cutOff, ...(expectedM === undefined ? {} : { expectedM }) };
  });
  return { ways, cells, elsewhere: above - cells, bodyM, limit };
}

/** What a domain should reach beyond the body, in its lengths, in halves; nothing where it is not known. */
export function proposedLengths({ extentM, cutOff, expectedM }: ReachOfWay, bodyM: number): number | undefined {
  const wanted = cutOff ? expectedM : extentM;
  return wanted === undefined ? undefined : Math.ceil((2 * SPARE * wanted) / bodyM) / 2;
}

function facesOf(mesh: FaceMesh, name: string): number[] {
  const found = mesh.boundaries.find((b) => b.name === name);
  if (!found) throw new NoReach(`The mesh has no boundary "${name}".`);
  return Array.from({ length: found.count }, (_, k) => found.start + k);
}

/** Faces of every rim that goes round inside another: all but the rim that reaches farthest. */
function holes(mesh: FaceMesh): number[] {
  const { joinCount, faceCount, facePoints } = mesh;
  const at = new Map<number, number[]>();
  for (let f = joinCount; f < faceCount; f++)
    for (const q of [facePoints[2 * f], facePoints[2 * f + 1]]) {
      const own = at.get(q);
      if (own) own.push(f);
      else at.set(q, [f]);
    }
  const seen = new Set<number>();
  const rims: number[][] = [];
  for (let f = joinCount; f < faceCount; f++) {
    if (seen.has(f)) continue;
    seen.add(f);
    const rim = [f];
    for (let head = 0; head < rim.length; head++)
      for (const q of [facePoints[2 * rim[head]], facePoints[2 * rim[head] + 1]])
        for (const next of at.get(q) ?? [])
          if (!seen.has(next)) {
            seen.add(next);
            rim.push(next);
          }
    rims.push(rim);
  }
  const sizes = rims.map((rim) => {
    const [left, right, below, above] = boxOf(mesh, rim);
    return right - left + above - below;
  });
  const outer = sizes.indexOf(Math.max(...sizes));
  const inner = rims.filter((_, k) => k !== outer).flat();
  if (!inner.length) throw new NoReach("The mesh has no hole: say which of its boundaries is the body.");
  return inner;
}

type Box = readonly [left: number, right: number, below: number, above: number];

/** Least and greatest place of faces. */
function boxOf({ pointsM, facePoints }: FaceMesh, faces: readonly number[]): Box {
  let [left, right, below, above] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const f of faces)
    for (const q of [facePoints[2 * f], facePoints[2 * f + 1]]) {
      const [x, y] = [pointsM[2 * q], pointsM[2 * q + 1]];
      left = Math.min(left, x);
      right = Math.max(right, x);
      below = Math.min(below, y);
      above = Math.max(above, y);
    }
  return [left, right, below, above];
}

/** Cells above the limit that can be reached from the body through such cells. */
function connected(mesh: FaceMesh, departure: Float64Array, limit: number, own: readonly number[]): Uint8Array {
  const { cellCount, joinCount, owner, neighbour } = mesh;
  const start = neighbourStarts(mesh);
  const beside = new Int32Array(start[cellCount]);
  const at = start.slice();
  for (let f = 0; f < joinCount; f++) {
    beside[at[owner[f]]++] = neighbour[f];
    beside[at[neighbour[f]]++] = owner[f];
  }
  const inside = new Uint8Array(cellCount);
  const queue: number[] = [];
  const reach = (c: number) => {
    if (inside[c] || !(departure[c] > limit)) return;
    inside[c] = 1;
    queue.push(c);
  };
  for (const f of own) reach(owner[f]);
  for (let head = 0; head < queue.length; head++) for (let k = start[queue[head]]; k < start[queue[head] + 1]; k++) reach(beside[k]);
  return inside;
}

/** Farthest places of the region, by way, and whether they lie on the rim of the domain. */
function farthest(mesh: FaceMesh, departure: Float64Array, limit: number, inside: Uint8Array, own: ReadonlySet<number>) {
  const { joinCount, faceCount, owner, neighbour, centroidM, pointsM, facePoints } = mesh;
  const at = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const rim = [false, false, false, false];
  const see = (x: number, y: number, onRim: boolean) => {
    [x, x, y, y].forEach((v, k) => {
      if (k % 2 ? v <= at[k] : v >= at[k]) return;
      at[k] = v;
      rim[k] = onRim;
    });
  };
  for (let f = 0; f < joinCount; f++) {
    const [a, b] = inside[owner[f]] ? [owner[f], neighbour[f]] : [neighbour[f], owner[f]];
    if (!inside[a] || inside[b]) continue;
    const share = departure[b] < limit ? (departure[a] - limit) / (departure[a] - departure[b]) : 0;
    see(
      centroidM[2 * a] + share * (centroidM[2 * b] - centroidM[2 * a]),
      centroidM[2 * a + 1] + share * (centroidM[2 * b + 1] - centroidM[2 * a + 1]),
      false,
    );
  }
  for (let f = joinCount; f < faceCount; f++) {
    if (!inside[owner[f]] || own.has(f)) continue;
    for (const q of [facePoints[2 * f], facePoints[2 * f + 1]]) see(pointsM[2 * q], pointsM[2 * q + 1], true);
  }
  return { at, rim };
}

const BINS = 12;

/** Where the greatest departure at a distance falls to the limit, as a power of the distance fitted to the outer half of the way. */
function expected(
  mesh: FaceMesh,
  departure: Float64Array,
  limit: number,
  inside: Uint8Array,
  k: number,
  edge: number,
  roomM: number,
): number | undefined {
  const sign = k % 2 ? 1 : -1;
  const most = new Float64Array(BINS);
  for (let c = 0; c < mesh.cellCount; c++) {
    const d = sign * (mesh.centroidM[2 * c + (k > 1 ? 1 : 0)] - edge);
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
