import type { FaceGraph } from "../../mesh/faceMesh.ts";
/** Compressed rows of the cell-to-cell graph, columns ascending, the diagonal among them. */
export interface SparsePattern {
  readonly size: number;
  /** row i holds entries rowStart[i] .. rowStart[i + 1) */
  readonly rowStart: Int32Array;
  readonly column: Int32Array;
  readonly diagonal: Int32Array;
  /** entry (owner, neighbour) of each joining face */
  readonly ownerEntry: Int32Array;
  /** entry (neighbour, owner) of each joining face */
  readonly neighbourEntry: Int32Array;
}

/** What joining faces carry where the line between two centroids does not meet a face at its centre and at right angles, one array a component. */
export interface ObliqueFaces {
  /** from the owner's centroid to the neighbour's */
  readonly dx: Float64Array;
  readonly dy: Float64Array;
  /** S - conductance d: what the non-orthogonal correction carries */
  readonly tx: Float64Array;
  readonly ty: Float64Array;
  /** from the interpolation point on the centroid line to the face's centre */
  readonly kx: Float64Array;
  readonly ky: Float64Array;
  /** from each cell's centroid to the face's centre: owner's, neighbour's */
  readonly ox: Float64Array;
  readonly oy: Float64Array;
  readonly nx: Float64Array;
  readonly ny: Float64Array;
}

/** Of boundary faces, counted from the first of them. */
export interface RimFaces {
  /** from the cell's centroid to the face's centre */
  readonly dx: Float64Array;
  readonly dy: Float64Array;
  /** S - conductance d */
  readonly tx: Float64Array;
  readonly ty: Float64Array;
}

/** Geometry the loops run over, one array a component. */
export interface FaceArrays {
  readonly mesh: FaceGraph;
  readonly cells: number;
  readonly joins: number;
  readonly faces: number;
  readonly owner: Int32Array;
  readonly neighbour: Int32Array;
  readonly volume: Float64Array;
  readonly sx: Float64Array;
  readonly sy: Float64Array;
  /** |S|^2 / (S . d): conductance of a face for unit diffusivity, over-relaxed split */
  readonly conductance: Float64Array;
  /** weight of the owner in linear interpolation to the face */
  readonly weight: Float64Array;
  readonly rim: RimFaces;
  /** absent on straight meshes: there S = conductance d, and faces are centred on the centroid line, which the loops make use of */
  readonly oblique?: ObliqueFaces;
  /** oblique faces carry corrections, which those of grouped cells go without */
  readonly corrected: boolean;
  /** area of each cell in the plane of a revolved mesh */
  readonly hoop?: Float64Array;
  readonly pattern: SparsePattern;
  /** least-squares gradient factors [owner x, owner y, neighbour x, neighbour y] a face, boundary values used */
  readonly gradientAll: Float64Array;
}
