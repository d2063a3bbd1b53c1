import { type FaceGeometry, faceCount, type Surface } from "./surface.ts";
import { at, cross, dot, minus, plus, size, times, type Vector } from "./vector.ts";

/** Edges of a surface, each with the faces that meet there. */
export interface SurfaceEdges {
  /** [from0, to0, ...]: points, as the first face goes along it */
  readonly ends: Int32Array;
  /** [first0, second0, ...]: faces; second -1 where there is none */
  readonly faces: Int32Array;
  /** both faces go along it the same way: one of them is turned over */
  readonly sameWay: Uint8Array;
  /** edges that three faces or more claim */
  readonly crowded: readonly number[];
}

/** Finds which faces meet along which edges. */
export function surfaceEdges(surface: Surface): SurfaceEdges {
  const { start, corners, points } = surface;
  const known = new Map<number, number>();
  const most = corners.length;
  const ends = new Int32Array(2 * most);
  const faces = new Int32Array(2 * most).fill(-1);
  const sameWay = new Uint8Array(most);
  const crowded = new Set<number>();
  const width = points.length / 3;
  let n = 0;
  for (let f = 0; f < faceCount(surface); f++) {
    for (let k = start[f]; k < start[f + 1]; k++) {
      const [a, b] = [corners[k], corners[k + 1 < start[f + 1] ? k + 1 : start[f]]];
      const key = Math.min(a, b) * width + Math.max(a, b);
      const e = known.get(key);
      if (e === undefined) {
        known.set(key, n);
        ends.set([a, b], 2 * n);
        faces[2 * n++] = f;
      } else if (faces[2 * e + 1] < 0) {
        faces[2 * e + 1] = f;
        sameWay[e] = ends[2 * e] === a ? 1 : 0;
      } else crowded.add(e);
    }
  }
  return { ends: ends.slice(0, 2 * n), faces: faces.slice(0, 2 * n), sameWay: sameWay.slice(0, n), crowded: [...crowded] };
}

/** Edges by face: edges[start[f] .. start[f + 1]). */
export function edgesOfFaces(count: number, edges: SurfaceEdges): { readonly start: Int32Array; readonly edges: Int32Array } {
  const start = new Int32Array(count + 1);
  for (const f of edges.faces) if (f >= 0) start[f + 1]++;
  for (let f = 0; f < count; f++) start[f + 1] += start[f];
  const list = new Int32Array(start[count]);
  const next = start.slice();
  edges.faces.forEach((f, i) => {
    if (f >= 0) list[next[f]++] = i >> 1;
  });
  return { start, edges: list };
}

/** A row of open edges that hang together. */
export interface OpenRim {
  readonly edges: number;
  /** in the surface's unit of length */
  readonly length: number;
  /** middle of its edges */
  readonly at: Vector;
}

/** Faces that hang together over edges. */
export interface Shell {
  readonly faces: number;
  readonly area: number;
  /** by how much the area vectors do not cancel, over the area */
  readonly gap: number;
  readonly closed: boolean;
  /** within it, its faces turned alike; negative where its normals point inwards. Only of closed ones */
  readonly volume?: number;
}

export interface SurfaceFaults {
  readonly shells: readonly Shell[];
  readonly rims: readonly OpenRim[];
  /** edges that three faces or more claim: how many, and where the first of them are */
  readonly crowded: { readonly edges: number; readonly at: readonly Vector[] };
  /** faces that go round against most of their shell */
  readonly turned: readonly number[];
  /** 1, or -1 for those: with it all faces of a shell go round alike */
  readonly sign: Int8Array;
  /** edges across which no choice of turning agrees: a surface with one side */
  readonly oneSided: number;
  /** faces that are there twice */
  readonly twice: readonly number[];
}

/** places of crowded edges that are told */
const MOST_TOLD = 20;

/** What a surface that bounds something must not have: open edges, faces turned over, faces twice, edges with more than two faces. */
export function surfaceFaults(surface: Surface, edges: SurfaceEdges, geometry: FaceGeometry): SurfaceFaults {
  const found = shellsOf(surface, edges, geometry);
  const open = Array.from({ length: edges.sameWay.length }, (_, e) => e).filter((e) => edges.faces[2 * e + 1] < 0);
  return {
    ...found,
    rims: rimsOf(surface, edges, open),
    crowded: { edges: edges.crowded.length, at: edges.crowded.slice(0, MOST_TOLD).map((e) => middleOf(surface, edges, e)) },
    twice: facesTwice(surface),
  };
}

const areaOf = ({ area }: FaceGeometry, f: number): number => Math.hypot(area[3 * f], area[3 * f + 1], area[3 * f + 2]);

function shellsOf(surface: Surface, edges: SurfaceEdges, geometry: FaceGeometry) {
  const count = faceCount(surface);
  const of = edgesOfFaces(count, edges);
  const shellOf = new Int32Array(count).fill(-1);
  const sign = new Int8Array(count);
  const shells: Shell[] = [];
  const openFaces = new Set<number>();
  for (let e = 0; e < edges.sameWay.length; e++) if (edges.faces[2 * e + 1] < 0) openFaces.add(edges.faces[2 * e]);
  const crowdedFaces = new Set(edges.crowded.flatMap((e) => [edges.faces[2 * e], edges.faces[2 * e + 1]]));
  let oneSided = 0;
  for (let seed = 0; seed < count; seed++) {
    if (shellOf[seed] >= 0) continue;
    const members = [seed];
    shellOf[seed] = shells.length;
    sign[seed] = 1;
    for (let m = 0; m < members.length; m++) {
      const f = members[m];
      for (let i = of.start[f]; i < of.start[f + 1]; i++) {
        const e = of.edges[i];
        const g = edges.faces[2 * e] === f ? edges.faces[2 * e + 1] : edges.faces[2 * e];
        if (g < 0) continue;
        const wanted = edges.sameWay[e] ? -sign[f] : sign[f];
        if (shellOf[g] < 0) {
          shellOf[g] = shells.length;
          sign[g] = wanted;
          members.push(g);
        } else if (sign[g] !== wanted) oneSided++;
      }
    }
    shells.push(shellFrom(surface, geometry, members, sign, !members.some((f) => openFaces.has(f) || crowdedFaces.has(f))));
  }
  const turned = Array.from(sign.keys()).filter((f) => sign[f] < 0);
  // Each such edge is met from both its faces.
  return { shells, sign, turned, oneSided: oneSided / 2 };
}

/** Most of a shell's area says which way round is the right one. */
function shellFrom(surface: Surface, geometry: FaceGeometry, members: readonly number[], sign: Int8Array, closed: boolean): Shell {
  const against = members.reduce((s, f) => s + (sign[f] < 0 ? areaOf(geometry, f) : -areaOf(geometry, f)), 0);
  if (against > 0) for (const f of members) sign[f] = -sign[f] as 1 | -1;
  let [sum, area, volume]: [Vector, number, number] = [[0, 0, 0], 0, 0];
  const origin = at(surface.points, surface.corners[surface.start[members[0]]]);
  for (const f of members) {
    const own = times(at(geometry.area, f), sign[f]);
    sum = plus(sum, own);
    area += size(own);
    volume += dot(minus(at(geometry.middle, f), origin), own) / 3;
  }
  return { faces: members.length, area, gap: area > 0 ? size(sum) / area : 0, closed, ...(closed ? { volume } : {}) };
}

const middleOf = ({ points }: Surface, { ends }: SurfaceEdges, e: number): Vector =>
  times(plus(at(points, ends[2 * e]), at(points, ends[2 * e + 1])), 0.5);

const lengthOf = ({ points }: Surface, { ends }: SurfaceEdges, e: number): number =>
  size(minus(at(points, ends[2 * e + 1]), at(points, ends[2 * e])));

/** Open edges that share points are one rim. */
function rimsOf(surface: Surface, edges: SurfaceEdges, open: readonly number[]): OpenRim[] {
  const root = new Map<number, number>();
  const find = (p: number): number => {
    let r = p;
    while (root.get(r) !== undefined && root.get(r) !== r) r = root.get(r) as number;
    root.set(p, r);
    return r;
  };
  for (const e of open) root.set(find(edges.ends[2 * e]), find(edges.ends[2 * e + 1]));
  const rims = new Map<number, number[]>();
  for (const e of open) {
    const r = find(edges.ends[2 * e]);
    const own = rims.get(r);
    if (own) own.push(e);
    else rims.set(r, [e]);
  }
  return [...rims.values()]
    .map((own) => {
      const length = own.reduce((s, e) => s + lengthOf(surface, edges, e), 0);
      const sum = own.reduce<Vector>((s, e) => plus(s, times(middleOf(surface, edges, e), lengthOf(surface, edges, e))), [0, 0, 0]);
      return { edges: own.length, length, at: length > 0 ? times(sum, 1 / length) : middleOf(surface, edges, own[0]) };
    })
    .sort((a, b) => b.length - a.length);
}

/** Faces with the same corners, in whatever order. */
function facesTwice({ start, corners }: Surface): number[] {
  const known = new Map<number, number[]>();
  const out: number[] = [];
  const alike = (f: number, g: number): boolean => {
    if (start[f + 1] - start[f] !== start[g + 1] - start[g]) return false;
    const own = corners.subarray(start[g], start[g + 1]);
    for (let k = start[f]; k < start[f + 1]; k++) if (!own.includes(corners[k])) return false;
    return true;
  };
  for (let f = 0; f + 1 < start.length; f++) {
    let [least, sum] = [corners[start[f]], 0];
    for (let k = start[f]; k < start[f + 1]; k++) {
      least = Math.min(least, corners[k]);
      sum += corners[k];
    }
    const key = least * 4_194_301 + sum;
    const same = known.get(key);
    if (!same) known.set(key, [f]);
    else if (same.some((g) => alike(f, g))) out.push(f);
    else same.push(f);
  }
  return out;
}

/** Angle between the faces at an edge, degrees: 0 where they go on evenly; undefined at an open one. */
export function angleAt(edges: SurfaceEdges, geometry: FaceGeometry, sign: Int8Array, e: number): number | undefined {
  const [f, g] = [edges.faces[2 * e], edges.faces[2 * e + 1]];
  if (g < 0) return undefined;
  const [a, b] = [times(at(geometry.area, f), sign[f]), times(at(geometry.area, g), sign[g])];
  // By sine and cosine: the cosine alone tells small angles badly.
  return (180 / Math.PI) * Math.atan2(size(cross(a, b)), dot(a, b));
}
