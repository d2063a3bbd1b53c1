import { faceCount, forTriangles, type Surface } from "./surface.ts";
import { at, cross, minus, plus, size, times, type Vector } from "./vector.ts";

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

const ZERO: Vector = [0, 0, 0];
const NOTHING: PatchForces = {
  faces: 0,
  area: 0,
  areaVector: ZERO,
  pressureForce: ZERO,
  shearForce: ZERO,
  pressureMoment: ZERO,
  shearMoment: ZERO,
};

/**
 * Pressure and shear over the faces of each patch: F = sum of (p - p_ref) A into the body + tau A. Polygons are split into triangles; over
 * one, values at corners vary linearly and are integrated so, arms of moments with them.
 * @param patchOf of each face, -1 for those without a name
 * @param count of patches
 * @returns of each patch, and last of the faces without a name
 * @source method, section 4
 */
export function surfaceForces(surface: Surface, inputs: ForceInputs, patchOf: Int32Array, count: number): PatchForces[] {
  const out = Array.from({ length: count + 1 }, () => NOTHING);
  const pressure = new Float64Array(count + 1);
  for (let f = 0; f < faceCount(surface); f++) {
    const k = patchOf[f] < 0 ? count : patchOf[f];
    const own = ofFace(surface, inputs, f);
    out[k] = sum(out[k], own);
    pressure[k] += own.pressure;
  }
  return out.map((o, k) => (inputs.pressure && o.area > 0 ? { ...o, meanPressure: pressure[k] / o.area } : o));
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

function ofFace(surface: Surface, i: ForceInputs, f: number): PatchForces & { readonly pressure: number } {
  let all: PatchForces = { ...NOTHING, faces: 1 };
  let pressure = 0;
  forTriangles(surface, f, (a, b, c) => {
    const corners = [a, b, c];
    const [p, q, r] = corners.map((k) => at(surface.points, surface.corners[k]));
    const normal = times(cross(minus(q, p), minus(r, p)), i.sign[f] / 2);
    const area = size(normal);
    const arms = [p, q, r].map((x) => minus(x, i.about));
    const pressures = i.pressure ? corners.map((k) => scalar(i.pressure as OnSurface, k, f)) : [0, 0, 0];
    const gauge = i.pressure ? pressures.map((v) => v - i.referencePa) : pressures;
    const shears = i.shear ? corners.map((k) => vector(i.shear as OnSurface, k, f)) : [ZERO, ZERO, ZERO];
    pressure += (area * (pressures[0] + pressures[1] + pressures[2])) / 3;
    all = sum(all, {
      faces: 0,
      area,
      areaVector: normal,
      pressureForce: times(normal, -(gauge[0] + gauge[1] + gauge[2]) / 3),
      shearForce: times(plus(plus(shears[0], shears[1]), shears[2]), area / 3),
      // p and the arm both vary linearly: their product is integrated exactly.
      pressureMoment: cross(weightedArm(arms, gauge), times(normal, -1)),
      shearMoment: shearMoment(arms, shears, area),
    });
  });
  return { ...all, pressure };
}

const scalar = ({ on, values }: OnSurface, corner: number, face: number): number => values[on === "corners" ? corner : face];
const vector = ({ on, values }: OnSurface, corner: number, face: number): Vector => at(values, on === "corners" ? corner : face);

/** Mean over a triangle of value times arm, both linear: 1/12 (sum of the products + product of the sums). */
function weightedArm(arms: readonly Vector[], values: readonly number[]): Vector {
  const total = values[0] + values[1] + values[2];
  const armSum = plus(plus(arms[0], arms[1]), arms[2]);
  const products = arms.reduce<Vector>((s, arm, k) => plus(s, times(arm, values[k])), ZERO);
  return times(plus(products, times(armSum, total)), 1 / 12);
}

function shearMoment(arms: readonly Vector[], shears: readonly Vector[], area: number): Vector {
  const armSum = plus(plus(arms[0], arms[1]), arms[2]);
  const shearSum = plus(plus(shears[0], shears[1]), shears[2]);
  const products = arms.reduce<Vector>((s, arm, k) => plus(s, cross(arm, shears[k])), ZERO);
  return times(plus(products, cross(armSum, shearSum)), area / 12);
}
