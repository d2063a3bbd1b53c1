import type { CellBlock, FaceGraph } from "./faceMesh.ts";

/** Where the cells and faces of a fine mesh go on a coarser one. */
export interface LevelTransfer {
  /** coarse cell of each fine cell */
  readonly cell: Int32Array;
  /** coarse face of each fine face, -1 inside a coarse cell */
  readonly face: Int32Array;
  /** 1 where the two faces point the same way, else -1 */
  readonly sign: Int8Array;
}

/** Cells put together into larger ones: the group of each cell and how many groups there are. */
export interface Grouping {
  readonly group: Int32Array;
  readonly count: number;
  readonly structure?: readonly CellBlock[];
}

/** Fewer cells than this are not put together any further. */
const FEWEST = 8;
const TARGET = 4;

/**
 * The next coarser mesh, about a quarter of the cells: pairs of rows and columns where cells are numbered by blocks, else groups grown
 * for a compact shape. Undefined when the mesh is too small to be coarsened.
 */
export function coarser(fine: FaceGraph): { mesh: FaceGraph; transfer: LevelTransfer } | undefined {
  if (fine.cellCount < FEWEST) return undefined;
  const grouping = fine.structure ? blockGroups(fine.structure) : compactGroups(fine);
  if (grouping.count < 2 || grouping.count > 0.7 * fine.cellCount) return undefined;
  return agglomerate(fine, grouping);
}

/** Two by two cells of every block; an odd row or column joins its last group. */
export function blockGroups(structure: readonly CellBlock[]): Grouping {
  const last = structure[structure.length - 1];
  const group = new Int32Array(last.firstCell + last.nx * last.ny);
  const coarse: CellBlock[] = [];
  let count = 0;
  const half = (n: number) => (n >= 4 ? Math.floor(n / 2) : n);
  for (const { firstCell, nx, ny } of structure) {
    const [cx, cy] = [half(nx), half(ny)];
    const of = (i: number, n: number, c: number) => (c === n ? i : Math.min(i >> 1, c - 1));
    for (let j = 0; j < ny; j++) for (let i = 0; i < nx; i++) group[firstCell + j * nx + i] = count + of(j, ny, cy) * cx + of(i, nx, cx);
    coarse.push({ firstCell: count, nx: cx, ny: cy });
    count += cx * cy;
  }
  return { group, count, structure: coarse };
}

interface Neighbour {
  readonly cell: number;
  readonly length: number;
}

/**
 * Groups of about four cells, grown one after the other from a moving front: each takes in the neighbour that keeps perimeter^2 / area
 * smallest. Compact groups are what the multigrid needs: groups by strength of coupling made it diverge on triangles.
 */
export function compactGroups(mesh: FaceGraph): Grouping {
  const { cellCount, joinCount, faceCount, owner, neighbour, areaVectorM, volumeM2 } = mesh;
  const perimeter = new Float64Array(cellCount);
  const around: Neighbour[][] = Array.from({ length: cellCount }, () => []);
  for (let f = 0; f < faceCount; f++) {
    const length = Math.hypot(areaVectorM[2 * f], areaVectorM[2 * f + 1]);
    perimeter[owner[f]] += length;
    if (f >= joinCount) continue;
    perimeter[neighbour[f]] += length;
    around[owner[f]].push({ cell: neighbour[f], length });
    around[neighbour[f]].push({ cell: owner[f], length });
  }
  const group = new Int32Array(cellCount).fill(-1);
  const shapes: { perimeter: number; volume: number; cells: number }[] = [];
  const front: number[] = [];
  let head = 0;
  let scan = 0;
  for (;;) {
    let seed = -1;
    while (seed < 0 && head < front.length) if (group[front[head++]] < 0) seed = front[head - 1];
    while (seed < 0 && scan < cellCount) if (group[scan++] < 0) seed = scan - 1;
    if (seed < 0) break;
    const id = shapes.length;
    const shape = { perimeter: perimeter[seed], volume: volumeM2[seed], cells: 1 };
    const touching = new Map<number, number>();
    const take = (c: number) => {
      group[c] = id;
      touching.delete(c);
      for (const n of around[c]) if (group[n.cell] < 0) touching.set(n.cell, (touching.get(n.cell) ?? 0) + n.length);
    };
    take(seed);
    while (shape.cells < TARGET && touching.size) {
      let best = -1;
      let bestMeasure = Number.POSITIVE_INFINITY;
      for (const [c, shared] of touching) {
        const rim = shape.perimeter + perimeter[c] - 2 * shared;
        let settled = 0;
        for (const n of around[c]) if (group[n.cell] >= 0 && group[n.cell] !== id) settled += n.length;
        // A cell that is already half enclosed by finished groups would be left over: take it first.
        const measure = (rim * rim) / (shape.volume + volumeM2[c]) - (2 * settled) / perimeter[c];
        if (measure < bestMeasure) {
          bestMeasure = measure;
          best = c;
        }
      }
      shape.perimeter += perimeter[best] - 2 * (touching.get(best) ?? 0);
      shape.volume += volumeM2[best];
      shape.cells++;
      take(best);
    }
    shapes.push(shape);
    front.push(...touching.keys());
  }
  return mergeSmall(mesh, group, shapes);
}

/** Groups of one or two cells join the neighbour with which they make the most compact shape. */
function mergeSmall(mesh: FaceGraph, group: Int32Array, shapes: { perimeter: number; volume: number; cells: number }[]): Grouping {
  const parent = shapes.map((_, i) => i);
  const root = (i: number): number => {
    let r = i;
    while (parent[r] !== r) r = parent[r];
    return r;
  };
  const shared: Map<number, number>[] = shapes.map(() => new Map());
  for (let f = 0; f < mesh.joinCount; f++) {
    const a = group[mesh.owner[f]];
    const b = group[mesh.neighbour[f]];
    if (a === b) continue;
    const length = Math.hypot(mesh.areaVectorM[2 * f], mesh.areaVectorM[2 * f + 1]);
    shared[a].set(b, (shared[a].get(b) ?? 0) + length);
    shared[b].set(a, (shared[b].get(a) ?? 0) + length);
  }
  shapes.forEach((small, a) => {
    if (small.cells > TARGET / 2) return;
    let best = -1;
    let bestMeasure = Number.POSITIVE_INFINITY;
    let rim = 0;
    for (const [other, length] of shared[a]) {
      const b = root(other);
      const into = shapes[b];
      if (b === root(a) || into.cells + small.cells > 1.5 * TARGET) continue;
      const joined = small.perimeter + into.perimeter - 2 * length;
      const measure = (joined * joined) / (small.volume + into.volume);
      if (measure < bestMeasure) [best, bestMeasure, rim] = [b, measure, joined];
    }
    if (best < 0) return;
    parent[a] = best;
    shapes[best] = { perimeter: rim, volume: shapes[best].volume + small.volume, cells: shapes[best].cells + small.cells };
  });
  const number = new Map<number, number>();
  const out = Int32Array.from(group, (g) => {
    const r = root(g);
    const known = number.get(r) ?? number.size;
    number.set(r, known);
    return known;
  });
  return { group: out, count: number.size };
}

/** boundary and periodic indices a key can tell apart */
const KINDS = 256;

/** Mesh whose cells are the groups of another's; faces between the same two groups become one. */
export function agglomerate(fine: FaceGraph, grouping: Grouping): { mesh: FaceGraph; transfer: LevelTransfer } {
  const { group, count } = grouping;
  const { joinCount, faceCount } = fine;
  const kindOf = (f: number) => {
    if (f >= joinCount) return 128 + fine.boundaryOfFace[f - joinCount];
    // Two groups of a short periodic row meet twice: the periodic meeting has a key of its own.
    return 1 + fine.periodic.findIndex((p) => f >= p.firstJoin && f < p.firstJoin + p.count);
  };
  interface Merged {
    readonly owner: number;
    readonly neighbour: number;
    readonly kind: number;
    index: number;
  }
  const merged = new Map<number, Merged>();
  const of: (Merged | undefined)[] = new Array(faceCount);
  const sign = new Int8Array(faceCount).fill(1);
  for (let f = 0; f < faceCount; f++) {
    const a = group[fine.owner[f]];
    const b = f < joinCount ? group[fine.neighbour[f]] : -1;
    const kind = kindOf(f);
    if (a === b && kind === 0) continue;
    // Periodic faces keep their direction, since their displacement belongs to it.
    const turned = kind === 0 && b < a;
    const [lo, hi] = turned ? [b, a] : [a, b];
    const key = (lo * (count + 1) + hi + 1) * KINDS + kind;
    let face = merged.get(key);
    if (!face) {
      face = { owner: lo, neighbour: hi, kind, index: -1 };
      merged.set(key, face);
    }
    of[f] = face;
    if (turned) sign[f] = -1;
  }
  const ordered = [...merged.values()].sort((p, q) => p.kind - q.kind || p.owner - q.owner || p.neighbour - q.neighbour);
  ordered.forEach((m, i) => {
    m.index = i;
  });
  const joins = ordered.filter((m) => m.kind < 128).length;
  const face = Int32Array.from(of, (m) => m?.index ?? -1);
  const firstOf = (kind: number) => ordered.findIndex((m) => m.kind === kind);
  const countOf = (kind: number) => ordered.filter((m) => m.kind === kind).length;
  const mesh: FaceGraph = {
    cellCount: count,
    faceCount: ordered.length,
    joinCount: joins,
    owner: Int32Array.from(ordered, (m) => m.owner),
    neighbour: Int32Array.from(ordered, (m) => m.neighbour),
    boundaryOfFace: Int32Array.from(ordered.slice(joins), (m) => m.kind - 128),
    boundaries: fine.boundaries.map((b, i) => ({ name: b.name, start: firstOf(128 + i), count: countOf(128 + i) })),
    ...cellSums(fine, grouping),
    ...faceSums(fine, face, sign, ordered.length),
    periodic: fine.periodic.map((p, i) => ({ ...p, firstJoin: firstOf(1 + i), count: countOf(1 + i) })),
    structure: grouping.structure,
  };
  return { mesh, transfer: { cell: group, face, sign } };
}

function cellSums(fine: FaceGraph, { group, count }: Grouping) {
  const volumeM2 = new Float64Array(count);
  const centroidM = new Float64Array(2 * count);
  const hoopM2 = fine.hoopM2 && new Float64Array(count);
  for (let c = 0; c < fine.cellCount; c++) {
    const g = group[c];
    volumeM2[g] += fine.volumeM2[c];
    centroidM[2 * g] += fine.volumeM2[c] * fine.centroidM[2 * c];
    centroidM[2 * g + 1] += fine.volumeM2[c] * fine.centroidM[2 * c + 1];
    if (hoopM2 && fine.hoopM2) hoopM2[g] += fine.hoopM2[c];
  }
  for (let g = 0; g < count; g++) {
    centroidM[2 * g] /= volumeM2[g];
    centroidM[2 * g + 1] /= volumeM2[g];
  }
  return { volumeM2, centroidM, hoopM2 };
}

function faceSums(fine: FaceGraph, face: Int32Array, sign: Int8Array, count: number) {
  const areaVectorM = new Float64Array(2 * count);
  const faceCentreM = new Float64Array(2 * count);
  const weight = new Float64Array(count);
  for (let f = 0; f < fine.faceCount; f++) {
    const g = face[f];
    if (g < 0) continue;
    // Faces on the axis have no area; the tiny weight keeps their centres.
    const size = Math.hypot(fine.areaVectorM[2 * f], fine.areaVectorM[2 * f + 1]) + 1e-300;
    weight[g] += size;
    for (const k of [0, 1]) {
      areaVectorM[2 * g + k] += sign[f] * fine.areaVectorM[2 * f + k];
      faceCentreM[2 * g + k] += size * fine.faceCentreM[2 * f + k];
    }
  }
  for (let g = 0; g < count; g++) {
    faceCentreM[2 * g] /= weight[g];
    faceCentreM[2 * g + 1] /= weight[g];
  }
  return { areaVectorM, faceCentreM };
}
