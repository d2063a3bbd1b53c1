import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { NearestCell } from "../../mesh/locate.ts";
import { type FaceGeometry, faceGeometry, leastSquaresFactors } from "../discrete/flowGeometry.ts";
import { gradient } from "../discrete/gradient.ts";
import type { Pair } from "../kernels/kernels.ts";

/** Reads cell fields of a mesh at any point: the nearest cell's value and slope, of second order. */
export class FieldSampler {
  private readonly geometry: FaceGeometry;
  private readonly factors: Float64Array;
  private readonly nearest: NearestCell;
  private readonly idle: Float64Array;

  constructor(private readonly mesh: FaceMesh) {
    this.geometry = faceGeometry(mesh);
    this.factors = leastSquaresFactors(this.geometry, () => false);
    this.nearest = new NearestCell(mesh);
    this.idle = new Float64Array(this.geometry.faces - this.geometry.joins);
  }

  /** Least-squares slopes of a field from its neighbours alone, per m. */
  slopes(values: Float64Array): Pair {
    const slope: Pair = [new Float64Array(this.mesh.cellCount), new Float64Array(this.mesh.cellCount)];
    gradient(this.geometry, this.factors, values, this.idle, slope);
    return slope;
  }

  /** Values at points [x0, y0, x1, y1, ...], m. */
  at(values: Float64Array, pointsM: ArrayLike<number>): Float64Array {
    const [gx, gy] = this.slopes(values);
    const { centroidM } = this.mesh;
    return Float64Array.from({ length: pointsM.length / 2 }, (_, i) => {
      const [x, y] = [pointsM[2 * i], pointsM[2 * i + 1]];
      const c = this.nearest.find(x, y);
      return values[c] + gx[c] * (x - centroidM[2 * c]) + gy[c] * (y - centroidM[2 * c + 1]);
    });
  }
}

const known = new WeakMap<FaceMesh, FieldSampler>();

/** The sampler of a mesh, made once. */
export function samplerOf(mesh: FaceMesh): FieldSampler {
  const found = known.get(mesh) ?? new FieldSampler(mesh);
  known.set(mesh, found);
  return found;
}
