import { type RectangleMesh, type RectangleSpec, rectangleMesh } from "../../mesh/rectangle.ts";
import { rectangleQuality } from "../../mesh/rectangleQuality.ts";
import { revolved } from "../../mesh/revolved.ts";
import { boundaryOf } from "../../monitors/boundary.ts";
import { interpolateAt } from "../../numeric/lagrange.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../../solver/incompressible/steadyFlow.ts";
import type { HeatedParameters } from "../describe/heated.ts";
import { heated as descriptionHeated, hydraulicOf, nuOf, PLANE } from "../describe/heated.ts";
import type { MeshSpec } from "../describe/runSettings.ts";
import { HELD, READ_FROM, heated as truthHeated } from "../truth/heated.ts";
import { centres, problem } from "./problem.ts";

/** excess of the held wall, K, or slope at the wall per half width of the heated one */
const WARMTH = 10;

const halfOf = (p: HeatedParameters) => p.widthM / 2;

const sizeOf = (p: HeatedParameters, spec: MeshSpec): RectangleSpec => ({ lengthM: p.lengthM, heightM: halfOf(p), ...spec, periodicX: false });

const READ_TO = 0.85;

const READINGS = 16;

const developed = (p: HeatedParameters, y: number) => (p.section === PLANE ? 1.5 : 2) * p.meanVelocityMS * (1 - (y / halfOf(p)) ** 2);

/** Developed flow that comes in cold, between walls that give off heat or are held warm; the half above the middle. */
export function heatedPhysics(p: HeatedParameters): FlowPhysics {
  const diffusivity = nuOf(p) / p.prandtl;
  return {
    densityKgM3: p.densityKgM3,
    kinematicViscosity: nuOf(p),
    bodyForce: [0, 0],
    boundaries: {
      left: { kind: "velocity", velocity: (_x, y) => [developed(p, y), 0] },
      right: { kind: "outlet", pressureOverDensity: 0 },
      bottom: { kind: "symmetry" },
      top: { kind: "wall" },
    },
    scalars: [
      {
        key: "temperature",
        unit: "K",
        diffusivity,
        conditions: {
          left: { kind: "value", value: 0 },
          top: p.wall === HELD ? { kind: "value", value: WARMTH } : { kind: "flux", outward: (-diffusivity * WARMTH) / halfOf(p) },
        },
      },
    ],
  };
}

function localNusselt(flow: SteadyFlow, p: HeatedParameters, mesh: RectangleMesh): Float64Array {
  const { nx, ny } = centres(mesh);
  const q = flow.finest.scalars[0];
  const diffusivity = q.physics.diffusivity;
  const top = boundaryOf(mesh, "top");
  return Float64Array.from({ length: nx }, (_, i) => {
    let carried = 0;
    let flux = 0;
    for (let j = 0; j < ny; j++) {
      const c = j * nx + i;
      const weight = flow.finest.u[c] * mesh.volumeM2[c];
      carried += weight * q.q[c];
      flux += weight;
    }
    const f = top.start + i;
    const area = Math.hypot(mesh.areaVectorM[2 * f], mesh.areaVectorM[2 * f + 1]);
    const heat = -q.boundaryTerms(f, flow.finest.flux).diffused / area;
    const wall = q.boundary[f - mesh.joinCount];
    return (heat * hydraulicOf(p)) / (diffusivity * (wall - carried / flux));
  });
}

/** Mean over a stretch of the wall: central differences leave waves of a cell's length on coarse meshes, which a single place would catch. */
function nusseltOver(flow: SteadyFlow, p: HeatedParameters, mesh: RectangleMesh, from: number, to: number): number {
  const { x } = centres(mesh);
  const local = localNusselt(flow, p, mesh);
  let sum = 0;
  for (let k = 0; k < READINGS; k++) sum += interpolateAt(x, local, (from + ((k + 0.5) / READINGS) * (to - from)) * p.lengthM, 2);
  return sum / READINGS;
}

/** Developed flow heated at its walls, in a duct between plates or in a pipe. */
export const heated = problem<HeatedParameters, RectangleMesh, SteadyFlow>({
  ...descriptionHeated,
  ...truthHeated,
  mesh: (p, spec) => {
    const plane = rectangleMesh(sizeOf(p, spec));
    return p.section === PLANE ? plane : { ...plane, ...revolved(plane) };
  },
  quickQuality: (p, spec) => rectangleQuality(sizeOf(p, spec)),
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, heatedPhysics(p), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => ({ nusselt: nusseltOver(flow, p, mesh, READ_FROM, READ_TO) }),
  second: (flow, p, mesh) => {
    const { boundaries } = flow.balance();
    const through = boundaries.map((b) => b.scalars?.temperature ?? [0, 0]);
    return [
      {
        name: "heat taken up",
        unit: "K m^2/s",
        first: -boundaries.reduce((s, b, k) => s + (b.closed ? through[k][1] : 0), 0),
        firstBy: "conduction through the wall",
        second: through.reduce((s, t, k) => s + (boundaries[k].closed ? 0 : t[0] + t[1]), 0),
        secondBy: "the rise of enthalpy from inlet to outlet, conduction there included",
      },
      {
        quantityKey: "nusselt",
        name: "developed Nusselt number",
        unit: "1",
        first: nusseltOver(flow, p, mesh, READ_FROM, READ_TO),
        firstBy: `its mean from ${READ_FROM} to ${READ_TO} of the length`,
        second: nusseltOver(flow, p, mesh, READ_FROM - (READ_TO - READ_FROM), READ_FROM),
        secondBy: "its mean over the stretch of that length before, where it has developed too",
      },
    ];
  },
  profiles: (flow, p, mesh) => [
    {
      key: "along",
      name: "Nusselt number along the wall",
      abscissa: { name: "x/D", unit: "1", values: Array.from(centres(mesh).x, (x) => x / hydraulicOf(p)) },
      value: { name: "Nu", unit: "1", values: [...localNusselt(flow, p, mesh)] },
    },
  ],
  errorNorms: () => [],
});
