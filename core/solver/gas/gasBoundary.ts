import type { FaceGraph } from "../../mesh/faceMesh.ts";
import { FlowSetupError } from "../discrete/boundaryConditions.ts";
import type { Gas, GasState } from "./gas.ts";

type GivenState = GasState | ((xM: number, yM: number, timeS: number) => GasState);

/** What holds on a named boundary of a gas flow. Periodic pairs belong to the mesh. */
export type GasBoundary =
  /** a given state outside: supersonic inflow, or an exact solution */
  | { readonly kind: "state"; readonly state: GivenState }
  /** supersonic outflow: nothing comes back */
  | { readonly kind: "free-outlet" }
  /** subsonic inflow along the inward normal */
  | { readonly kind: "total-inlet"; readonly totalPressurePa: number; readonly totalTemperatureK: number }
  /** outflow against a given pressure; taken as free where it is supersonic */
  | { readonly kind: "static-outlet"; readonly pressurePa: number }
  /** an inviscid wall or a plane of symmetry */
  | { readonly kind: "slip" }
  /** a wall the gas sticks to, adiabatic unless its temperature is given */
  | { readonly kind: "wall"; readonly temperatureK?: number };

export type GasBoundaries = Readonly<Record<string, GasBoundary>>;

export const STATE = 0;
export const FREE = 1;
export const TOTAL = 2;
export const STATIC = 3;
export const SLIP = 4;
export const WALL = 5;
const CODE = { state: STATE, "free-outlet": FREE, "total-inlet": TOTAL, "static-outlet": STATIC, slip: SLIP, wall: WALL } as const;

/** Boundary conditions a face each, in the order of the mesh's boundary faces. */
export interface GasBoundaryFaces {
  readonly type: Uint8Array;
  /** four numbers a face: the outer state; for total inlets pressure and temperature; for static outlets the pressure; for walls the temperature or 0 */
  readonly given: Float64Array;
}

/** @throws {FlowSetupError} A boundary without a condition, a state that is no gas. */
export function gasBoundaryFaces(mesh: FaceGraph, conditions: GasBoundaries): GasBoundaryFaces {
  const count = mesh.faceCount - mesh.joinCount;
  const faces = { type: new Uint8Array(count), given: new Float64Array(4 * count) };
  setGasTime(mesh, conditions, faces, 0);
  return faces;
}

/** Given values of a moment. */
export function setGasTime(mesh: FaceGraph, conditions: GasBoundaries, faces: GasBoundaryFaces, timeS: number): void {
  for (const b of mesh.boundaries) {
    const c = conditions[b.name];
    if (!c) throw new FlowSetupError("boundary-missing", `Boundary "${b.name}" has no condition.`);
    for (let f = b.start; f < b.start + b.count; f++) {
      const k = f - mesh.joinCount;
      faces.type[k] = CODE[c.kind];
      const values = givenOn(c, mesh.faceCentreM[2 * f], mesh.faceCentreM[2 * f + 1], timeS);
      if (!values.every(Number.isFinite) || (c.kind === "state" && !(values[0] > 0 && values[3] > 0))) {
        throw new FlowSetupError("not-finite", `The state given on boundary "${b.name}" is no gas: ${values.join(", ")}.`);
      }
      faces.given.set(values, 4 * k);
    }
  }
}

function givenOn(c: GasBoundary, x: number, y: number, t: number): readonly number[] {
  switch (c.kind) {
    case "state":
      return typeof c.state === "function" ? c.state(x, y, t) : c.state;
    case "total-inlet":
      return [c.totalPressurePa, c.totalTemperatureK];
    case "static-outlet":
      return [c.pressurePa];
    case "wall":
      return [c.temperatureK ?? 0];
    case "free-outlet":
    case "slip":
      return [];
    default:
      return c satisfies never;
  }
}

/**
 * State on a boundary face from the state inside, by the characteristics that leave and the values given.
 * @param inside density, velocity, pressure at the face
 * @param given four numbers as in `GasBoundaryFaces`, from `at`
 */
export function faceState(
  out: Float64Array,
  type: number,
  inside: Float64Array,
  given: Float64Array,
  at: number,
  nx: number,
  ny: number,
  gas: Gas,
): void {
  const { gamma, gasConstant } = gas;
  const q = inside[1] * nx + inside[2] * ny;
  const c = Math.sqrt((gamma * inside[3]) / inside[0]);
  out.set(inside);
  if (type === STATE) {
    for (let k = 0; k < 4; k++) out[k] = given[at + k];
  } else if (type === STATIC && q < c) {
    const p = given[at];
    out[3] = p;
    out[0] = inside[0] * (p / inside[3]) ** (1 / gamma);
    const cb = Math.sqrt((gamma * p) / out[0]);
    const change = (2 * (c - cb)) / (gamma - 1);
    out[1] += change * nx;
    out[2] += change * ny;
  } else if (type === TOTAL) {
    // The invariant that leaves meets the given total enthalpy.
    const k = (gamma - 1) / 2;
    const leaving = -q - c / k;
    const c0 = Math.sqrt(gamma * gasConstant * given[at + 1]);
    const a = 1 + 1 / k;
    const root = leaving * leaving - a * (k * leaving * leaving - c0 * c0);
    const cb = (-leaving + Math.sqrt(Math.max(0, root))) / a;
    const speed = leaving + cb / k;
    const mach2 = (speed / cb) ** 2;
    const ratio = 1 + k * mach2;
    out[3] = given[at] * ratio ** (-gamma / (gamma - 1));
    out[0] = (out[3] * ratio) / (gasConstant * given[at + 1]);
    out[1] = -speed * nx;
    out[2] = -speed * ny;
  }
}
