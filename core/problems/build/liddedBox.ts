import { type RectangleMesh, type RectangleSpec, rectangleMesh } from "../../mesh/rectangle.ts";
import { rectangleQuality } from "../../mesh/rectangleQuality.ts";
import { interpolateAt, lagrange, lowest, stencilStart } from "../../numeric/lagrange.ts";
import type { Profile } from "../../records/profile.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../../solver/incompressible/steadyFlow.ts";
import type { LiddedBoxParameters } from "../describe/liddedBox.ts";
import { liddedBox as descriptionLiddedBox } from "../describe/liddedBox.ts";
import type { MeshSpec } from "../describe/runSettings.ts";
import { liddedBox as truthLiddedBox } from "../truth/liddedBox.ts";
import { centres, problem } from "./problem.ts";

/** Square box of fluid driven by its sliding lid. */
export const liddedBox = problem<LiddedBoxParameters, RectangleMesh, SteadyFlow>({
  ...descriptionLiddedBox,
  ...truthLiddedBox,
  mesh: (p, spec) => rectangleMesh(sizeOf(p, spec)),
  quickQuality: (p, spec) => rectangleQuality(sizeOf(p, spec)),
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, liddedBoxPhysics(p), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => {
    const u = midColumn(flow, p, mesh);
    const v = midRow(flow, p, mesh);
    const centre = vortexCentre(flow, mesh);
    const low = lowest(v.x, v.v);
    const high = lowest(
      v.x,
      v.v.map((q) => -q),
    );
    return {
      uMin: lowest(u.y, u.u).value,
      vMax: -high.value,
      vMin: low.value,
      vortexX: centre.x / p.sideM,
      vortexY: centre.y / p.sideM,
      psiMin: centre.psi / (p.lidSpeedMS * p.sideM),
      lidForce: lidForce(flow) / (p.lidSpeedMS ** 2 * p.sideM),
    };
  },
  profiles: (flow, p, mesh) => profiles(flow, p, mesh),
  errorNorms: () => [],
});

const sizeOf = (p: LiddedBoxParameters, spec: MeshSpec): RectangleSpec => ({ lengthM: p.sideM, heightM: p.sideM, ...spec, periodicX: false });

/** The box as the solver takes it. */
export const liddedBoxPhysics = (p: LiddedBoxParameters): FlowPhysics => ({
  densityKgM3: p.densityKgM3,
  kinematicViscosity: p.viscosityPaS / p.densityKgM3,
  bodyForce: [0, 0],
  boundaries: {
    left: { kind: "wall" },
    right: { kind: "wall" },
    bottom: { kind: "wall" },
    top: { kind: "moving-wall", velocity: [p.lidSpeedMS, 0] },
  },
});

/** u/U on the vertical centre-line at the heights of the cell centres, walls included, over the side. */
function midColumn(flow: SteadyFlow, p: LiddedBoxParameters, mesh: RectangleMesh) {
  const { x, y, nx } = centres(mesh);
  const s = stencilStart(x, p.sideM / 2, 4);
  const xs = [0, 1, 2, 3].map((k) => x[s + k]);
  const u = Array.from(
    y,
    (_, j) =>
      lagrange(
        xs,
        [0, 1, 2, 3].map((k) => flow.finest.u[j * nx + s + k]),
        p.sideM / 2,
      ) / p.lidSpeedMS,
  );
  return { y: [0, ...Array.from(y, (q) => q / p.sideM), 1], u: [0, ...u, 1] };
}

/** v/U on the horizontal centre-line, walls included. */
function midRow(flow: SteadyFlow, p: LiddedBoxParameters, mesh: RectangleMesh) {
  const { x, y, nx } = centres(mesh);
  const s = stencilStart(y, p.sideM / 2, 4);
  const ys = [0, 1, 2, 3].map((k) => y[s + k]);
  const v = Array.from(
    x,
    (_, i) =>
      lagrange(
        ys,
        [0, 1, 2, 3].map((k) => flow.finest.v[(s + k) * nx + i]),
        p.sideM / 2,
      ) / p.lidSpeedMS,
  );
  return { x: [0, ...Array.from(x, (q) => q / p.sideM), 1], v: [0, ...v, 0] };
}

/**
 * Lowest stream function and where it lies. The stream function at the grid's points is summed from the face fluxes and so
 * conserves mass exactly; the extremum is refined by the biquartic through 5 x 5 points.
 */
function vortexCentre(flow: SteadyFlow, mesh: RectangleMesh): { x: number; y: number; psi: number } {
  const psi = pointStreamFunction(flow, mesh);
  const xs = mesh.xLinesM;
  const ys = mesh.yLinesM;
  const stride = xs.length;
  let at = 0;
  for (let k = 1; k < psi.length; k++) if (psi[k] < psi[at]) at = k;
  const i0 = Math.max(0, Math.min(stride - 5, (at % stride) - 2));
  const j0 = Math.max(0, Math.min(ys.length - 5, Math.floor(at / stride) - 2));
  const five = [0, 1, 2, 3, 4];
  const px = five.map((k) => xs[i0 + k]);
  const py = five.map((k) => ys[j0 + k]);
  let x = xs[at % stride];
  let y = ys[Math.floor(at / stride)];
  let value = psi[at];
  // Alternate one-dimensional searches: the patch is smooth and nearly round at the centre.
  for (let pass = 0; pass < 40; pass++) {
    const alongX = five.map((a) =>
      interpolateAt(
        py,
        five.map((b) => psi[(j0 + b) * stride + i0 + a]),
        y,
        5,
      ),
    );
    const foundX = lowest(px, alongX);
    const alongY = five.map((b) =>
      interpolateAt(
        px,
        five.map((a) => psi[(j0 + b) * stride + i0 + a]),
        foundX.x,
        5,
      ),
    );
    const foundY = lowest(py, alongY);
    const moved = Math.abs(foundX.x - x) + Math.abs(foundY.x - y);
    x = foundX.x;
    y = foundY.x;
    value = foundY.value;
    if (moved < 1e-12 * px[4]) break;
  }
  return { x, y, psi: value };
}

/** Stream function at the grid's points, zero on the walls, psi_y = u, m^2/s. */
function pointStreamFunction(flow: SteadyFlow, mesh: RectangleMesh): Float64Array {
  const stride = mesh.xLinesM.length;
  const psi = new Float64Array(stride * mesh.yLinesM.length);
  const { facePoints, joinCount } = mesh;
  // Faces across x lie between points one row apart: climbing them row by row reaches every inner point.
  for (let f = 0; f < joinCount; f++) {
    const a = facePoints[2 * f];
    const b = facePoints[2 * f + 1];
    if (b === a + stride) psi[b] = psi[a] + flow.finest.flux[f];
  }
  return psi;
}

function lidForce(flow: SteadyFlow): number {
  const top = flow.mesh.boundaries.find((b) => b.name === "top");
  if (!top) throw new RangeError("No lid.");
  let force = 0;
  for (let f = top.start; f < top.start + top.count; f++) force -= flow.finest.boundaryTerms(f).shear[0];
  return force;
}

function profiles(flow: SteadyFlow, p: LiddedBoxParameters, mesh: RectangleMesh): Profile[] {
  const u = midColumn(flow, p, mesh);
  const v = midRow(flow, p, mesh);
  return [
    {
      key: "uMid",
      name: "u on the vertical centre-line",
      abscissa: { name: "y/L", unit: "1", values: u.y },
      value: { name: "u/U", unit: "1", values: u.u },
    },
    {
      key: "vMid",
      name: "v on the horizontal centre-line",
      abscissa: { name: "x/L", unit: "1", values: v.x },
      value: { name: "v/U", unit: "1", values: v.v },
    },
  ];
}
