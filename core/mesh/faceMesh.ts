/** A named run of consecutive boundary faces. */
export interface Boundary {
  readonly name: string;
  /** first face index */
  readonly start: number;
  readonly count: number;
}

/** Two boundaries joined to one another: consecutive joining faces whose neighbour is seen displaced by `shiftM`. */
export interface PeriodicPair {
  readonly firstJoin: number;
  readonly count: number;
  readonly shiftM: readonly [number, number];
  readonly names: readonly [string, string];
}

/**
 * Cells of any shape and the faces between them, without their corners: what a solver needs, and all that is left of a mesh
 * whose cells were put together into larger ones. Faces joining two cells come first; boundary faces follow, grouped by boundary.
 */
export interface FaceGraph {
  readonly cellCount: number;
  readonly faceCount: number;
  /** faces [0, joinCount) join two cells, those of periodic pairs last; [joinCount, faceCount) lie on a boundary */
  readonly joinCount: number;
  readonly owner: Int32Array;
  /** cell across each face, -1 on a boundary */
  readonly neighbour: Int32Array;
  /** boundary index of each boundary face, indexed by face - joinCount */
  readonly boundaryOfFace: Int32Array;
  readonly boundaries: readonly Boundary[];
  /** area of each cell times unit depth, m^3 per m */
  readonly volumeM2: Float64Array;
  /** [x0, y0, ...], m */
  readonly centroidM: Float64Array;
  /** outward from the owner, length of the face times its normal: [sx0, sy0, ...], m */
  readonly areaVectorM: Float64Array;
  /** [x0, y0, ...], m */
  readonly faceCentreM: Float64Array;
  readonly periodic: readonly PeriodicPair[];
  /** area of each cell in the plane where the mesh was revolved about the x axis; volumes and areas are then those of one radian */
  readonly hoopM2?: Float64Array;
  /** blocks of rows and columns the cells are numbered by, where there are any */
  readonly structure?: readonly CellBlock[];
}

/** Cells firstCell .. firstCell + nx ny in rows of nx. */
export interface CellBlock {
  readonly firstCell: number;
  readonly nx: number;
  readonly ny: number;
}

/** Plane mesh of polygons stored by its faces. */
export interface FaceMesh extends FaceGraph {
  /** [x0, y0, x1, y1, ...], m */
  readonly pointsM: Float64Array;
  /** two point indices a face; seen from the first to the second the owner lies on the left */
  readonly facePoints: Int32Array;
  /** cells' corner points, counter-clockwise: points cellPoints[cellStart[c] .. cellStart[c + 1]) */
  readonly cellStart: Int32Array;
  readonly cellPoints: Int32Array;
}

/** Where the neighbours of each cell begin in a list of them all, cell after cell; the last entry is its length. */
export function neighbourStarts({
  cellCount,
  joinCount,
  owner,
  neighbour,
}: Pick<FaceGraph, "cellCount" | "joinCount" | "owner" | "neighbour">): Int32Array {
  const start = new Int32Array(cellCount + 1);
  for (let f = 0; f < joinCount; f++) {
    start[owner[f] + 1]++;
    start[neighbour[f] + 1]++;
  }
  for (let c = 0; c < cellCount; c++) start[c + 1] += start[c];
  return start;
}

/** Displacement seen across a joining face: nothing but across a periodic pair. */
export function faceShift(mesh: Pick<FaceGraph, "periodic">, face: number): readonly [number, number] {
  for (const pair of mesh.periodic) if (face >= pair.firstJoin && face < pair.firstJoin + pair.count) return pair.shiftM;
  return [0, 0];
}

/** What a mesh generator hands over; geometry is worked out from it. */
export interface MeshTopology {
  readonly pointsM: Float64Array;
  readonly joins: readonly { owner: number; neighbour: number; a: number; b: number }[];
  readonly boundaries: readonly { name: string; faces: readonly { owner: number; a: number; b: number }[] }[];
  readonly cells: readonly (readonly number[])[];
  readonly periodic?: readonly PeriodicPair[];
}

/** A mesh that cannot be used, with the cell that shows it. */
export class MeshError extends Error {
  constructor(
    message: string,
    readonly cell?: number,
  ) {
    super(message);
    this.name = "MeshError";
  }
}

/** Area and centroid of a polygon by triangles from its first corner, so that far-off coordinates do not cancel. */
function polygon(points: Float64Array, corners: readonly number[]): { area: number; x: number; y: number } {
  const x0 = points[2 * corners[0]];
  const y0 = points[2 * corners[0] + 1];
  let twice = 0;
  let mx = 0;
  let my = 0;
  for (let k = 1; k + 1 < corners.length; k++) {
    const ax = points[2 * corners[k]] - x0;
    const ay = points[2 * corners[k] + 1] - y0;
    const bx = points[2 * corners[k + 1]] - x0;
    const by = points[2 * corners[k + 1] + 1] - y0;
    const cross = ax * by - bx * ay;
    twice += cross;
    mx += (ax + bx) * cross;
    my += (ay + by) * cross;
  }
  return { area: twice / 2, x: x0 + mx / (3 * twice), y: y0 + my / (3 * twice) };
}

/**
 * Works out volumes, centroids and area vectors of a plane mesh.
 * @throws {MeshError} A cell without positive volume, naming the cell.
 */
export function buildFaceMesh(topology: MeshTopology): FaceMesh {
  const { pointsM, joins, boundaries, cells } = topology;
  const joinCount = joins.length;
  const faceCount = joinCount + boundaries.reduce((sum, b) => sum + b.faces.length, 0);
  const owner = new Int32Array(faceCount);
  const neighbour = new Int32Array(faceCount).fill(-1);
  const facePoints = new Int32Array(2 * faceCount);
  const boundaryOfFace = new Int32Array(faceCount - joinCount);
  const named: Boundary[] = [];
  let f = 0;
  const put = (face: { owner: number; a: number; b: number }) => {
    owner[f] = face.owner;
    facePoints[2 * f] = face.a;
    facePoints[2 * f + 1] = face.b;
    f++;
  };
  for (const join of joins) {
    neighbour[f] = join.neighbour;
    put(join);
  }
  boundaries.forEach((boundary, index) => {
    named.push({ name: boundary.name, start: f, count: boundary.faces.length });
    for (const face of boundary.faces) {
      boundaryOfFace[f - joinCount] = index;
      put(face);
    }
  });
  const cellStart = new Int32Array(cells.length + 1);
  for (let c = 0; c < cells.length; c++) cellStart[c + 1] = cellStart[c] + cells[c].length;
  const cellPoints = new Int32Array(cellStart[cells.length]);
  const volumeM2 = new Float64Array(cells.length);
  const centroidM = new Float64Array(2 * cells.length);
  cells.forEach((corners, c) => {
    cellPoints.set(corners, cellStart[c]);
    const shape = polygon(pointsM, corners);
    if (!(shape.area > 0)) throw new MeshError(`Cell ${c} has volume ${shape.area} m2; every cell must have a positive volume.`, c);
    volumeM2[c] = shape.area;
    centroidM[2 * c] = shape.x;
    centroidM[2 * c + 1] = shape.y;
  });
  const areaVectorM = new Float64Array(2 * faceCount);
  const faceCentreM = new Float64Array(2 * faceCount);
  for (let k = 0; k < faceCount; k++) {
    const a = 2 * facePoints[2 * k];
    const b = 2 * facePoints[2 * k + 1];
    areaVectorM[2 * k] = pointsM[b + 1] - pointsM[a + 1];
    areaVectorM[2 * k + 1] = pointsM[a] - pointsM[b];
    faceCentreM[2 * k] = (pointsM[a] + pointsM[b]) / 2;
    faceCentreM[2 * k + 1] = (pointsM[a + 1] + pointsM[b + 1]) / 2;
  }
  return {
    cellCount: cells.length,
    faceCount,
    joinCount,
    pointsM,
    facePoints,
    owner,
    neighbour,
    boundaryOfFace,
    boundaries: named,
    cellStart,
    cellPoints,
    volumeM2,
    centroidM,
    areaVectorM,
    faceCentreM,
    periodic: topology.periodic ?? [],
  };
}
