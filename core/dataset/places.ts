import { bounds } from "../mesh/bounds.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";

/** A point of the rim where two boundaries meet, or where one turns sharply. */
export interface Corner {
  readonly at: readonly [number, number];
  /** names of the boundaries that meet there; the same twice where one turns */
  readonly between: readonly [string, string];
}

/** A part of a plane region, and how much of an amount lies in it. */
export interface Place {
  readonly kind: "corner" | "ends" | "corners" | "boundary" | "spot";
  /** the boundary, or the boundaries that meet */
  readonly names: readonly string[];
  /** corners or the middle of the spot, m */
  readonly at: readonly (readonly [number, number])[];
  /** how far it reaches, m */
  readonly withinM: number;
  /** of the whole amount, 0 to 1 */
  readonly share: number;
  /** of the area, 0 to 1 */
  readonly areaShare: number;
}

export interface Concentration {
  /** smaller side of the region, which distances are measured in, m */
  readonly sideM: number;
  /** the smallest place that holds at least half of the amount and twice its share of the area, a named one rather than a spot; absent where it is spread */
  readonly place?: Place;
  /** share of the amount in the tenth of the area where it is densest */
  readonly worstTenth: number;
  /** where it is densest */
  readonly peak: { readonly cell: number; readonly at: readonly [number, number] };
}

/** Turns sharper than this make a corner of one boundary, degrees. */
const SHARP = 30;
const REACHES = [0.05, 0.1, 0.2] as const;
const LEAST_SHARE = 0.5;
const LEAST_DENSITY = 2;
const MOST_AREA = 0.5;
/** how much larger than a spot a place with a name may be and still be preferred */
const NAMELESS = 4;

/**
 * Where an amount that is spread over cells sits: near a corner, the ends of a boundary, a boundary, or round a spot inside.
 * @param density amount per area, not negative; cells that are NaN are left out
 * @returns undefined where there is nothing to place
 */
export function concentrationOf(mesh: FaceMesh, density: Float64Array): Concentration | undefined {
  const { cellCount, centroidM } = mesh;
  const area = mesh.hoopM2 ?? mesh.volumeM2;
  const amount = density.map((d, c) => (Number.isFinite(d) ? Math.max(0, d) * area[c] : 0));
  const total = sum(amount);
  if (!(total > 0)) return undefined;
  let peak = -1;
  for (let c = 0; c < cellCount; c++) if (Number.isFinite(density[c]) && (peak < 0 || density[c] > density[peak])) peak = c;
  const { low, high } = bounds(mesh.pointsM);
  const sideM = Math.min(high[0] - low[0], high[1] - low[1]);
  const spread = { amount, area, total, wholeArea: sum(area) };
  const rim = rimOf(mesh, Math.max(...REACHES) * sideM);
  const candidates = REACHES.flatMap((reach) => {
    const spot = densestSpot(mesh, amount, reach * sideM);
    const about: From = { kind: "spot", names: [], at: [spot], distance: squaredFrom(mesh, spot) };
    return [...rim, about].map((from) => placeWithin(from, reach * sideM, spread));
  });
  const fitting = candidates.filter(
    (p) => p.share >= LEAST_SHARE && p.areaShare <= MOST_AREA && p.areaShare > 0 && p.share >= LEAST_DENSITY * p.areaShare,
  );
  // What has a name says more than a spot, unless it is much larger.
  const size = (p: Place) => p.areaShare * (p.kind === "spot" ? NAMELESS : 1);
  const [place] = fitting.sort((a, b) => size(a) - size(b));
  return {
    sideM,
    ...(place ? { place } : {}),
    worstTenth: densest(amount, density, area) / total,
    peak: { cell: peak, at: [centroidM[2 * peak], centroidM[2 * peak + 1]] },
  };
}

const sum = (values: Float64Array): number => values.reduce((s, v) => s + v, 0);

/** Amount in the tenth of the area where it is densest. */
function densest(amount: Float64Array, density: Float64Array, area: Float64Array): number {
  const order = Uint32Array.from(Array.from(amount.keys()).filter((c) => Number.isFinite(density[c])));
  order.sort((a, b) => density[b] - density[a]);
  const tenth = order.reduce((s, c) => s + area[c], 0) / 10;
  let [covered, held] = [0, 0];
  for (const c of order) {
    const part = Math.min(1, (tenth - covered) / area[c]);
    if (part <= 0) break;
    held += part * amount[c];
    covered += area[c];
  }
  return held;
}

/** Points of the rim where boundaries meet or one of them turns by more than 30 degrees. */
export function cornersOf(mesh: FaceMesh): Corner[] {
  const { joinCount, faceCount, facePoints, boundaryOfFace, boundaries, pointsM } = mesh;
  const ending = new Map<number, number>();
  for (let f = joinCount; f < faceCount; f++) ending.set(facePoints[2 * f + 1], f);
  const corners: Corner[] = [];
  const heading = (f: number) => {
    const [a, b] = [2 * facePoints[2 * f], 2 * facePoints[2 * f + 1]];
    return Math.atan2(pointsM[b + 1] - pointsM[a + 1], pointsM[b] - pointsM[a]);
  };
  for (let f = joinCount; f < faceCount; f++) {
    const point = facePoints[2 * f];
    const before = ending.get(point);
    if (before === undefined) continue;
    const [one, other] = [before, f].map((g) => boundaries[boundaryOfFace[g - joinCount]].name);
    const turn = Math.abs(heading(f) - heading(before)) % (2 * Math.PI);
    const sharp = Math.min(turn, 2 * Math.PI - turn) > (SHARP * Math.PI) / 180;
    if (one !== other || sharp) corners.push({ at: [pointsM[2 * point], pointsM[2 * point + 1]], between: [one, other] });
  }
  return corners;
}

/** What a place is measured from: squared distance of every cell, m^2. */
interface From extends Pick<Place, "kind" | "names" | "at"> {
  readonly distance: Float64Array;
}

/** Everything on the rim that a place may lie near; distances beyond the farthest that matters are not told apart. */
function rimOf(mesh: FaceMesh, farthestM: number): From[] {
  const corners = cornersOf(mesh).map((k) => ({ ...k, distance: squaredFrom(mesh, k.at) }));
  const together = (kind: From["kind"], names: readonly string[], some: typeof corners): From[] =>
    some.length > 1 ? [{ kind, names, at: some.map((k) => k.at), distance: nearestOf(some.map((k) => k.distance)) }] : [];
  return [
    ...corners.map((k): From => ({ kind: "corner", names: k.between, at: [k.at], distance: k.distance })),
    ...mesh.boundaries.flatMap(({ name }) =>
      together(
        "ends",
        [name],
        corners.filter((k) => k.between.includes(name)),
      ),
    ),
    ...together("corners", [], corners),
    ...mesh.boundaries.map(({ name }, b): From => ({ kind: "boundary", names: [name], at: [], distance: squaredDistance(mesh, b, farthestM) })),
  ];
}

function squaredFrom({ cellCount, centroidM }: FaceMesh, [x, y]: readonly [number, number]): Float64Array {
  const out = new Float64Array(cellCount);
  for (let c = 0; c < cellCount; c++) out[c] = (centroidM[2 * c] - x) ** 2 + (centroidM[2 * c + 1] - y) ** 2;
  return out;
}

function nearestOf([first, ...others]: readonly Float64Array[]): Float64Array {
  const out = first.slice();
  for (const other of others) for (let c = 0; c < out.length; c++) if (other[c] < out[c]) out[c] = other[c];
  return out;
}

/** An amount and the area it is spread over, by cell and in all. */
interface Spread {
  readonly amount: Float64Array;
  readonly area: Float64Array;
  readonly total: number;
  readonly wholeArea: number;
}

/** How much lies within a distance of something. */
function placeWithin({ kind, names, at, distance }: From, withinM: number, { amount, area, total, wholeArea }: Spread): Place {
  let [held, covered] = [0, 0];
  const limit = withinM * withinM;
  for (let c = 0; c < distance.length; c++) {
    if (distance[c] > limit) continue;
    held += amount[c];
    covered += area[c];
  }
  return { kind, names, at, withinM, share: held / total, areaShare: covered / wholeArea };
}

/** Middle of the amount in the square of a raster that holds most of it. */
function densestSpot({ cellCount, centroidM }: FaceMesh, amount: Float64Array, stepM: number): readonly [number, number] {
  const squares = new Map<number, { held: number; x: number; y: number }>();
  for (let c = 0; c < cellCount; c++) {
    const x = centroidM[2 * c];
    const y = centroidM[2 * c + 1];
    // Rows of a raster wider than any region is in squares.
    const key = Math.floor(x / stepM) + 1e7 * Math.floor(y / stepM);
    const square = squares.get(key);
    if (square) {
      square.held += amount[c];
      square.x += amount[c] * x;
      square.y += amount[c] * y;
    } else squares.set(key, { held: amount[c], x: amount[c] * x, y: amount[c] * y });
  }
  const most = [...squares.values()].reduce((a, b) => (b.held > a.held ? b : a));
  return [most.x / most.held, most.y / most.held];
}

/** faces of a boundary that are passed over together where they lie too far off */
const CHUNK = 24;

const BEYOND = 1.01;

/** Squared distance of every cell's middle to the faces of a boundary, m^2, as far as it matters. */
function squaredDistance({ cellCount, centroidM, boundaries, facePoints, pointsM }: FaceMesh, boundary: number, farthestM: number): Float64Array {
  const { start, count } = boundaries[boundary];
  const out = new Float64Array(cellCount).fill(BEYOND * farthestM ** 2);
  for (let first = start; first < start + count; first += CHUNK) {
    const last = Math.min(first + CHUNK, start + count);
    const [x0, y0, x1, y1] = boxOfFaces(facePoints, pointsM, first, last);
    for (let c = 0; c < cellCount; c++) {
      const x = centroidM[2 * c];
      const y = centroidM[2 * c + 1];
      const ox = x < x0 ? x0 - x : x > x1 ? x - x1 : 0;
      const oy = y < y0 ? y0 - y : y > y1 ? y - y1 : 0;
      let best = out[c];
      if (ox * ox + oy * oy >= best) continue;
      for (let f = first; f < last; f++) {
        const a = 2 * facePoints[2 * f];
        const b = 2 * facePoints[2 * f + 1];
        const ex = pointsM[b] - pointsM[a];
        const ey = pointsM[b + 1] - pointsM[a + 1];
        const dx = x - pointsM[a];
        const dy = y - pointsM[a + 1];
        const s = Math.max(0, Math.min(1, (dx * ex + dy * ey) / (ex * ex + ey * ey)));
        const d = (dx - s * ex) ** 2 + (dy - s * ey) ** 2;
        if (d < best) best = d;
      }
      out[c] = best;
    }
  }
  return out;
}

function boxOfFaces(facePoints: Int32Array, pointsM: Float64Array, first: number, last: number): readonly [number, number, number, number] {
  const box: [number, number, number, number] = [
    Number.POSITIVE_INFINITY,
    Number.POSITIVE_INFINITY,
    Number.NEGATIVE_INFINITY,
    Number.NEGATIVE_INFINITY,
  ];
  for (let k = 2 * first; k < 2 * last; k++) {
    const [x, y] = [pointsM[2 * facePoints[k]], pointsM[2 * facePoints[k] + 1]];
    box[0] = Math.min(box[0], x);
    box[1] = Math.min(box[1], y);
    box[2] = Math.max(box[2], x);
    box[3] = Math.max(box[3], y);
  }
  return box;
}
