import type { FaceGraph } from "../../mesh/faceMesh.ts";

export type Vector = readonly [x: number, y: number];

type GivenVelocity = Vector | ((xM: number, yM: number, timeS: number) => Vector);

/** What holds on a named boundary of an incompressible flow; velocities in m/s. Periodic pairs belong to the mesh. */
export type BoundaryCondition =
  | { readonly kind: "velocity"; readonly velocity: GivenVelocity }
  | { readonly kind: "wall" }
  | { readonly kind: "moving-wall"; readonly velocity: GivenVelocity }
  /** a plane of symmetry, or the axis of a revolved mesh */
  | { readonly kind: "symmetry" }
  /** fixed pressure over density, m^2/s^2; velocity carried out unchanged */
  | { readonly kind: "outlet"; readonly pressureOverDensity: number };

export type BoundaryConditions = Readonly<Record<string, BoundaryCondition>>;

/** A flow that has no answer as it is set up. */
export class FlowSetupError extends Error {
  constructor(
    readonly code: "boundary-missing" | "net-inflow" | "not-finite" | "no-viscosity",
    message: string,
  ) {
    super(message);
    this.name = "FlowSetupError";
  }
}

export const FIXED = 0;
export const OUTLET = 1;
export const SYMMETRY = 2;

/** Boundary values laid out a face each, in the order of the mesh's boundary faces. */
export interface BoundaryState {
  readonly type: Uint8Array;
  readonly u: Float64Array;
  readonly v: Float64Array;
  /** pressure over density; fixed on outlets, extrapolated elsewhere */
  readonly p: Float64Array;
  /** volume flux through each boundary face, outward, m^2/s */
  readonly flux: Float64Array;
  readonly hasOutlet: boolean;
}

/**
 * Evaluates boundary conditions on the faces of a mesh.
 * @throws {FlowSetupError} A boundary without a condition, values that are not finite, more fluid in than out with nowhere to go.
 */
export function boundaryState(mesh: FaceGraph, conditions: BoundaryConditions): BoundaryState {
  const count = mesh.faceCount - mesh.joinCount;
  const state = {
    type: new Uint8Array(count),
    u: new Float64Array(count),
    v: new Float64Array(count),
    p: new Float64Array(count),
    flux: new Float64Array(count),
  };
  setBoundaryTime(mesh, conditions, state, 0);
  return { ...state, hasOutlet: state.type.includes(OUTLET) };
}

/** Boundary values of a moment, for conditions that depend on time. */
export function setBoundaryTime(mesh: FaceGraph, conditions: BoundaryConditions, state: Omit<BoundaryState, "hasOutlet">, timeS: number): void {
  for (const boundary of mesh.boundaries) {
    const condition = conditions[boundary.name];
    if (!condition) throw new FlowSetupError("boundary-missing", `Boundary "${boundary.name}" has no condition.`);
    for (let f = boundary.start; f < boundary.start + boundary.count; f++) setFace(mesh, f, condition, state, timeS);
  }
  if (!state.type.includes(OUTLET)) balanceFluxes(state.flux);
}

/** Boundary values of a mesh of grouped cells, summed and averaged from the finer one's, so that both let the same through. */
export function coarseBoundary(fineMesh: FaceGraph, fine: BoundaryState, coarse: FaceGraph, face: Int32Array): BoundaryState {
  const count = coarse.faceCount - coarse.joinCount;
  const [u, v, p, flux, weight] = [0, 1, 2, 3, 4].map(() => new Float64Array(count));
  const type = new Uint8Array(count);
  for (let f = fineMesh.joinCount; f < fineMesh.faceCount; f++) {
    const from = f - fineMesh.joinCount;
    const b = face[f] - coarse.joinCount;
    const size = Math.hypot(fineMesh.areaVectorM[2 * f], fineMesh.areaVectorM[2 * f + 1]) + 1e-300;
    type[b] = fine.type[from];
    weight[b] += size;
    flux[b] += fine.flux[from];
    u[b] += size * fine.u[from];
    v[b] += size * fine.v[from];
    p[b] += size * fine.p[from];
  }
  for (const q of [u, v, p]) for (let b = 0; b < count; b++) q[b] /= weight[b];
  return { type, u, v, p, flux, hasOutlet: fine.hasOutlet };
}

function setFace(mesh: FaceGraph, f: number, condition: BoundaryCondition, state: Omit<BoundaryState, "hasOutlet">, timeS: number): void {
  const b = f - mesh.joinCount;
  if (condition.kind === "outlet") {
    state.type[b] = OUTLET;
    state.p[b] = condition.pressureOverDensity;
  } else if (condition.kind === "symmetry") {
    state.type[b] = SYMMETRY;
  } else if (condition.kind !== "wall") {
    const given = condition.velocity;
    const [u, v] = typeof given === "function" ? given(mesh.faceCentreM[2 * f], mesh.faceCentreM[2 * f + 1], timeS) : given;
    state.u[b] = u;
    state.v[b] = v;
    // A wall slides along itself: whatever the table says across it carries no fluid.
    if (condition.kind === "velocity") state.flux[b] = u * mesh.areaVectorM[2 * f] + v * mesh.areaVectorM[2 * f + 1];
  }
  if (!Number.isFinite(state.u[b] + state.v[b] + state.p[b])) throw new FlowSetupError("not-finite", `Boundary values on face ${f} are not finite.`);
}

/** Spreads what rounding or quadrature leaves over the fixed fluxes, so that a box without an outlet closes to round-off. */
function balanceFluxes(flux: Float64Array): void {
  let net = 0;
  let size = 0;
  for (const q of flux) {
    net += q;
    size += Math.abs(q);
  }
  if (size === 0) return;
  if (Math.abs(net) > 0.02 * size)
    throw new FlowSetupError("net-inflow", `The boundaries let ${net.toExponential(3)} m2/s more out than in and there is no outlet.`);
  for (let b = 0; b < flux.length; b++) flux[b] -= (net * Math.abs(flux[b])) / size;
}
