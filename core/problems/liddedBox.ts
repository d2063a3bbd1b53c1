import { type RectangleMesh, type RectangleSpec, rectangleMesh } from "../mesh/rectangle.ts";
import { rectangleQuality } from "../mesh/rectangleQuality.ts";
import { interpolateAt, lagrange, lowest, stencilStart } from "../numeric/lagrange.ts";
import type { Profile } from "../records/profile.ts";
import type { Yardstick } from "../records/yardstick.ts";
import type { FlowPhysics } from "../solver/incompressible/flowLevel.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../solver/incompressible/steadyFlow.ts";
import { classicalUncertainty, LIDDED_BOX_TABLES, type LiddedBoxTable } from "../tables/liddedBox.ts";
import { nearest } from "./common.ts";
import { centres, type Parameters, problem } from "./problem.ts";
import type { MeshSpec } from "./runSettings.ts";

const reynoldsOf = (p: Parameters) => (p.densityKgM3 * p.lidSpeedMS * p.sideM) / p.viscosityPaS;

/** Square box of fluid driven by its sliding lid. */
export const liddedBox = problem<RectangleMesh, SteadyFlow>({
  id: "lidded-box",
  title: "Lidded box",
  kind: "published",
  tests:
    "Convection and pressure-velocity coupling in a closed box. Extrema and vortex centre approach published spectral figures at order 2; the lid's force does not converge, its shear is infinite at two corners.",
  parameters: [
    { key: "sideM", label: "Side of the box", unit: "m", preset: 0.05, min: 1e-5, max: 100, help: "The box is square." },
    { key: "lidSpeedMS", label: "Speed of the lid", unit: "m/s", preset: (1000 * 1.74e-5) / (1.274 * 0.05), min: 1e-9, max: 1000, help: "Along +x." },
    { key: "densityKgM3", label: "Density", unit: "kg/m^3", preset: 1.274, min: 1e-3, max: 2e4, help: "Of the fluid, constant." },
    { key: "viscosityPaS", label: "Dynamic viscosity", unit: "Pa s", preset: 1.74e-5, min: 1e-8, max: 1e4, help: "Of the fluid, constant." },
  ],
  quantities: [
    { key: "uMin", name: "lowest mid-plane velocity", symbol: "u_min/U", unit: "1", limit: 0.01 },
    { key: "vMax", name: "highest cross velocity", symbol: "v_max/U", unit: "1", limit: 0.01 },
    { key: "vMin", name: "lowest cross velocity", symbol: "v_min/U", unit: "1", limit: 0.01 },
    { key: "vortexX", name: "vortex centre, x", symbol: "x_c/L", unit: "1", limit: 0.01 },
    { key: "vortexY", name: "vortex centre, y", symbol: "y_c/L", unit: "1", limit: 0.01 },
    { key: "psiMin", name: "stream function at the centre", symbol: "psi/(U L)", unit: "1", limit: 0.01 },
    { key: "lidForce", name: "lid force coefficient", symbol: "F/(rho U^2 L)", unit: "1", limit: 0.02, derivative: true },
  ],
  family: {
    baseNx: 32,
    baseNy: 32,
    ratio: 2,
    count: 3,
    gradingX: { kind: "both-ends", strength: 1.5 },
    gradingY: { kind: "both-ends", strength: 1.5 },
  },
  formalOrder: 2,
  order: "Order 2 in extrema and vortex centre; the lid's force does not converge.",
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: false },
  graded: true,
  numerics: {},
  similarity: [
    {
      key: "reynolds",
      label: "Reynolds number",
      preset: 1000,
      sets: "lidSpeedMS",
      solve: (re, p) => (re * p.viscosityPaS) / (p.densityKgM3 * p.sideM),
      note: "Published tables exist for 100, 400 and 1000.",
    },
  ],
  reference: (p) => ({ velocityMS: p.lidSpeedMS, lengthM: p.sideM, velocityName: "lid speed", lengthName: "side" }),
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
  yardsticks: (p) => nearest(LIDDED_BOX_TABLES, (t) => t.reynolds, reynoldsOf(p)).map((t) => tableYardstick(t, reynoldsOf(p))),
});

const sizeOf = (p: Parameters, spec: MeshSpec): RectangleSpec => ({ lengthM: p.sideM, heightM: p.sideM, ...spec, periodicX: false });

/** The box as the solver takes it. */
export const liddedBoxPhysics = (p: Parameters): FlowPhysics => ({
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
function midColumn(flow: SteadyFlow, p: Parameters, mesh: RectangleMesh) {
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
function midRow(flow: SteadyFlow, p: Parameters, mesh: RectangleMesh) {
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

function profiles(flow: SteadyFlow, p: Parameters, mesh: RectangleMesh): Profile[] {
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

function tableYardstick(t: LiddedBoxTable, reynolds: number): Yardstick {
  const away = Math.abs(reynolds / t.reynolds - 1);
  const u = (key: string, value: number) => {
    const location = key === "vortexX" || key === "vortexY";
    if (t.velocityUncertainty !== undefined) return location ? 5e-5 / Math.sqrt(3) : t.velocityUncertainty;
    return classicalUncertainty(key, value);
  };
  const sorted = (points: LiddedBoxTable["u"]) => [...points].sort((a, b) => a[0] - b[0]);
  const profile = (profileKey: string, points: LiddedBoxTable["u"], misprints: LiddedBoxTable["misprintV"]) => {
    const rows = sorted(points);
    const peak = Math.max(...rows.map((r) => Math.abs(r[1])).filter((q) => q < 1));
    return {
      profileKey,
      abscissa: rows.map((r) => r[0]),
      value: rows.map((r) => r[1]),
      standardUncertainty: t.velocityUncertainty ?? classicalUncertainty(profileKey === "uMid" ? "uMin" : "vMin", peak),
      uncertaintyNote: t.uncertaintyNote,
      doubtful: (misprints ?? []).map((m) => ({ index: rows.findIndex((r) => r[0] === m.x), reason: m.reason })),
    };
  };
  return {
    key: t.id,
    name: t.name,
    kind: "table",
    source: t.source,
    validity: { sentence: `Holds at Re ${t.reynolds}; this case has Re ${reynolds.toPrecision(5)}.`, inside: away < 1e-3 },
    values: Object.entries(t.extrema).map(([quantityKey, value]) => ({
      quantityKey,
      value,
      standardUncertainty: u(quantityKey, value),
      uncertaintyNote: t.uncertaintyNote,
    })),
    profiles: t.u.length ? [profile("uMid", t.u, undefined), profile("vMid", t.v, t.misprintV)] : [],
  };
}
