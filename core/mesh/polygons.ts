import { buildFaceMesh, type FaceMesh, MeshError } from "./faceMesh.ts";

/** Cells given by their corners; faces, neighbours and boundaries are found from them. */
export interface PolygonSpec {
  /** [x0, y0, x1, y1, ...], m */
  readonly pointsM: Float64Array;
  /** corner points of each cell, counter-clockwise */
  readonly cells: readonly (readonly number[])[];
  /** name of the boundary an outer edge between two points belongs to, seen with the cell on the left */
  readonly boundaryOf: (a: number, b: number) => string;
  /** boundaries joined to one another: what leaves through the second comes back through the first, `shiftM` further back */
  readonly periodic?: readonly { readonly names: readonly [string, string]; readonly shiftM: readonly [number, number] }[];
}

interface Edge {
  readonly owner: number;
  neighbour: number;
  readonly a: number;
  readonly b: number;
}

/**
 * Face mesh of polygons that share their corner points.
 * @throws {MeshError} A cell without positive volume, an edge with more than two cells, periodic boundaries that do not match.
 */
export function polygonMesh(spec: PolygonSpec): FaceMesh {
  const edges = findEdges(spec);
  const joins = edges.filter((e) => e.neighbour >= 0).sort((p, q) => p.owner - q.owner || p.neighbour - q.neighbour);
  const outer = new Map<string, Edge[]>();
  for (const e of edges) {
    if (e.neighbour >= 0) continue;
    const name = spec.boundaryOf(e.a, e.b);
    const group = outer.get(name);
    if (group) group.push(e);
    else outer.set(name, [e]);
  }
  const periodic = (spec.periodic ?? []).map(({ names, shiftM }) => {
    const firstJoin = joins.length;
    joins.push(...matchPeriodic(spec.pointsM, outer.get(names[0]) ?? [], outer.get(names[1]) ?? [], shiftM));
    for (const name of names) outer.delete(name);
    return { firstJoin, count: joins.length - firstJoin, shiftM, names };
  });
  return buildFaceMesh({
    pointsM: spec.pointsM,
    joins,
    boundaries: [...outer].map(([name, faces]) => ({ name, faces })),
    cells: spec.cells,
    periodic,
  });
}

function findEdges({ pointsM, cells }: PolygonSpec): Edge[] {
  const points = pointsM.length / 2;
  const found = new Map<number, Edge>();
  cells.forEach((corners, c) => {
    for (let k = 0; k < corners.length; k++) {
      const a = corners[k];
      const b = corners[k + 1 < corners.length ? k + 1 : 0];
      const key = Math.min(a, b) * points + Math.max(a, b);
      const known = found.get(key);
      if (!known) found.set(key, { owner: c, neighbour: -1, a, b });
      else if (known.neighbour >= 0) throw new MeshError(`The edge between points ${a} and ${b} has more than two cells.`, c);
      else known.neighbour = c;
    }
  });
  return [...found.values()];
}

function matchPeriodic(points: Float64Array, first: readonly Edge[], second: readonly Edge[], shiftM: readonly [number, number]): Edge[] {
  const middle = (e: Edge) => [(points[2 * e.a] + points[2 * e.b]) / 2, (points[2 * e.a + 1] + points[2 * e.b + 1]) / 2];
  const along = Math.abs(shiftM[0]) > Math.abs(shiftM[1]) ? 1 : 0;
  const ordered = (edges: readonly Edge[]) => [...edges].sort((p, q) => middle(p)[along] - middle(q)[along]);
  const from = ordered(first);
  const to = ordered(second);
  if (from.length !== to.length || from.length === 0) {
    throw new MeshError(`Periodic boundaries have ${from.length} and ${to.length} faces; they must match.`);
  }
  const tolerance = 1e-6 * Math.hypot(...shiftM);
  return to.map((e, k) => {
    const [x, y] = middle(e);
    const [px, py] = middle(from[k]);
    if (Math.hypot(px + shiftM[0] - x, py + shiftM[1] - y) > tolerance)
      throw new MeshError("Periodic boundaries do not lie upon one another.", e.owner);
    return { owner: e.owner, neighbour: from[k].owner, a: e.a, b: e.b };
  });
}
