import { faceCount, forTriangles, type Surface } from "./surface.ts";
import { plus, type Vector } from "./vector.ts";

/** A field on a surface: a value for each corner of its faces, or for each face. */
export interface OnSurface {
  readonly on: "corners" | "faces";
  readonly components: 1 | 3;
  /** by corner as in `Surface.corners`, or by face */
  readonly values: Float64Array;
}

/** Force and moment on part of a surface, with what they are made of. */
export interface PatchForces {
  readonly faces: number;
  readonly area: number;
  /** sum of its area vectors, out of the body */
  readonly areaVector: Vector;
  readonly pressureForce: Vector;
  readonly shearForce: Vector;
  readonly pressureMoment: Vector;
  readonly shearMoment: Vector;
  /** mean pressure over its area, before any reference is taken off */
  readonly meanPressure?: number;
}

export interface ForceInputs {
  /** absolute or gauge; taken off is `referencePa` */
  readonly pressure?: OnSurface;
  /** stress the fluid exerts on the wall along it */
  readonly shear?: OnSurface;
  readonly referencePa: number;
  /** moments are taken about it */
  readonly about: Vector;
  /** 1 where the faces' own normal points out of the body into the fluid, -1 where into the body: by face */
  readonly sign: Int8Array;
}

/** what is summed of a patch, one after the other: area, its vector, force and moment by pressure, by shear, pressure over area */
const SUMS = 17;

/**
 * Pressure and shear over the faces of each patch: F = sum of (p - p_ref) A into the body + tau A. Polygons are split into triangles; over
 * one, values at corners vary linearly and are integrated so, arms of moments with them.
 * @param patchOf of each face, -1 for those without a name
 * @param count of patches
 * @returns of each patch, and last of the faces without a name
 * @source method, section 4
 */
export function surfaceForces(surface: Surface, inputs: ForceInputs, patchOf: Int32Array, count: number): PatchForces[] {
  const sums = Array.from({ length: count + 1 }, () => new Float64Array(SUMS));
  const faces = new Int32Array(count + 1);
  const triangle = new Triangle(surface, inputs);
  for (let f = 0; f < faceCount(surface); f++) {
    const k = patchOf[f] < 0 ? count : patchOf[f];
    faces[k]++;
    forTriangles(surface, f, (a, b, c) => triangle.add(f, a, b, c, sums[k]));
  }
  return sums.map((s, k) => {
    const at3 = (i: number): Vector => [s[i], s[i + 1], s[i + 2]];
    return {
      faces: faces[k],
      area: s[0],
      areaVector: at3(1),
      pressureForce: at3(4),
      shearForce: at3(7),
      pressureMoment: at3(10),
      shearMoment: at3(13),
      ...(inputs.pressure && s[0] > 0 ? { meanPressure: s[16] / s[0] } : {}),
    };
  });
}

/** Two patches as one; the mean pressure by area. */
export function sum(a: PatchForces, b: PatchForces): PatchForces {
  const area = a.area + b.area;
  const mean = a.meanPressure === undefined || b.meanPressure === undefined ? undefined : (a.meanPressure * a.area + b.meanPressure * b.area) / area;
  return {
    faces: a.faces + b.faces,
    area,
    areaVector: plus(a.areaVector, b.areaVector),
    pressureForce: plus(a.pressureForce, b.pressureForce),
    shearForce: plus(a.shearForce, b.shearForce),
    pressureMoment: plus(a.pressureMoment, b.pressureMoment),
    shearMoment: plus(a.shearMoment, b.shearMoment),
    ...(mean === undefined ? {} : { meanPressure: mean }),
  };
}

/** One triangle after the other, in numbers alone: a surface has millions. */
class Triangle {
  /** places of the corners about the point of moments, and stresses there */
  private readonly arm = new Float64Array(9);
  private readonly tau = new Float64Array(9);
  private readonly p = new Float64Array(3);

  constructor(
    private readonly surface: Surface,
    private readonly inputs: ForceInputs,
  ) {}

  add(f: number, a: number, b: number, c: number, s: Float64Array): void {
    const { arm, tau, p } = this;
    this.read(f, a, 0);
    this.read(f, b, 1);
    this.read(f, c, 2);
    const [ux, uy, uz] = [arm[3] - arm[0], arm[4] - arm[1], arm[5] - arm[2]];
    const [vx, vy, vz] = [arm[6] - arm[0], arm[7] - arm[1], arm[8] - arm[2]];
    const half = this.inputs.sign[f] / 2;
    const [nx, ny, nz] = [(uy * vz - uz * vy) * half, (uz * vx - ux * vz) * half, (ux * vy - uy * vx) * half];
    const area = Math.sqrt(nx * nx + ny * ny + nz * nz);
    const total = p[0] + p[1] + p[2];
    s[0] += area;
    s[1] += nx;
    s[2] += ny;
    s[3] += nz;
    s[4] -= (nx * total) / 3;
    s[5] -= (ny * total) / 3;
    s[6] -= (nz * total) / 3;
    if (this.inputs.pressure) s[16] += area * (total / 3 + this.inputs.referencePa);
    // Pressure and arm both vary linearly: their mean product is 1/12 (sum of the products + product of the sums).
    const mean = (d: number) => (p[0] * arm[d] + p[1] * arm[3 + d] + p[2] * arm[6 + d] + total * (arm[d] + arm[3 + d] + arm[6 + d])) / 12;
    const [mx, my, mz] = [mean(0), mean(1), mean(2)];
    s[10] -= my * nz - mz * ny;
    s[11] -= mz * nx - mx * nz;
    s[12] -= mx * ny - my * nx;
    if (!this.inputs.shear) return;
    const t = (d: number) => tau[d] + tau[3 + d] + tau[6 + d];
    for (let d = 0; d < 3; d++) {
      s[7 + d] += (t(d) * area) / 3;
      const [i, j] = [(d + 1) % 3, (d + 2) % 3];
      let products = (arm[i] + arm[3 + i] + arm[6 + i]) * t(j) - (arm[j] + arm[3 + j] + arm[6 + j]) * t(i);
      for (let k = 0; k < 9; k += 3) products += arm[k + i] * tau[k + j] - arm[k + j] * tau[k + i];
      s[13 + d] += (products * area) / 12;
    }
  }

  /** What is known at corner k of face f. */
  private read(f: number, k: number, to: number): void {
    const { surface, inputs, arm, tau, p } = this;
    const { pressure, shear, about } = inputs;
    const q = 3 * surface.corners[k];
    for (let d = 0; d < 3; d++) arm[3 * to + d] = surface.points[q + d] - about[d];
    p[to] = pressure ? pressure.values[pressure.on === "corners" ? k : f] - inputs.referencePa : 0;
    if (shear) for (let d = 0; d < 3; d++) tau[3 * to + d] = shear.values[3 * (shear.on === "corners" ? k : f) + d];
  }
}
