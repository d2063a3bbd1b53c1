import { type RectangleMesh, type RectangleSpec, rectangleMesh } from "../../mesh/rectangle.ts";
import { rectangleQuality } from "../../mesh/rectangleQuality.ts";
import { diffusionOut } from "../../monitors/boundary.ts";
import type { FlowLevel } from "../../solver/incompressible/flowLevel.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../../solver/incompressible/steadyFlow.ts";
import { samplerOf } from "../../solver/readings/sampler.ts";
import type { ChamberParameters } from "../describe/chamber.ts";
import { chamber as descriptionChamber, diffusivityOf, nuOf } from "../describe/chamber.ts";
import type { MeshSpec } from "../describe/runSettings.ts";
import { chamber as truthChamber } from "../truth/chamber.ts";
import { alongColumn, alongRow, highest } from "./midLines.ts";
import { problem } from "./problem.ts";

const sizeOf = (p: ChamberParameters, spec: MeshSpec): RectangleSpec => ({ lengthM: p.sideM, heightM: p.sideM, ...spec, periodicX: false });

/** One side wall warm, one cold, the others let no heat through; buoyancy by the Boussinesq approximation. */
export function chamberPhysics(p: ChamberParameters): FlowPhysics {
  const wall = { kind: "wall" } as const;
  return {
    densityKgM3: p.densityKgM3,
    kinematicViscosity: nuOf(p),
    bodyForce: [0, 0],
    boundaries: { left: wall, right: wall, bottom: wall, top: wall },
    scalars: [
      {
        key: "temperature",
        unit: "K",
        diffusivity: diffusivityOf(p),
        conditions: { left: { kind: "value", value: p.warmK }, right: { kind: "value", value: p.coldK } },
        buoyancy: [0, p.gravityMS2 * p.expansionPerK],
        neutral: (p.warmK + p.coldK) / 2,
      },
    ],
  };
}

const MIDDLE_POINTS = 400;

/** Heat that crosses the vertical mid-plane, carried and conducted, K m^2/s per depth. */
function heatThroughMiddle(mesh: RectangleMesh, flow: FlowLevel, p: ChamberParameters): number {
  const sampler = samplerOf(mesh);
  const { q } = flow.scalars[0];
  const points = Float64Array.from({ length: 2 * MIDDLE_POINTS }, (_, k) => (k % 2 ? (((k >> 1) + 0.5) / MIDDLE_POINTS) * p.sideM : p.sideM / 2));
  const [u, warm, slope] = [flow.u, q, sampler.slopes(q)[0]].map((field) => sampler.at(field, points));
  const mean = (p.warmK + p.coldK) / 2;
  return u.reduce((sum, x, k) => sum + (x * (warm[k] - mean) - diffusivityOf(p) * slope[k]) * (p.sideM / MIDDLE_POINTS), 0);
}

/** Square chamber, one side wall warm and one cold: air turns over by its own buoyancy. */
export const chamber = problem<ChamberParameters, RectangleMesh, SteadyFlow>({
  ...descriptionChamber,
  ...truthChamber,
  mesh: (p, spec) => rectangleMesh(sizeOf(p, spec)),
  quickQuality: (p, spec) => rectangleQuality(sizeOf(p, spec)),
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, chamberPhysics(p), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => {
    const scale = p.sideM / diffusivityOf(p);
    const u = alongColumn(mesh, flow.finest.u, p.sideM / 2);
    const v = alongRow(mesh, flow.finest.v, p.sideM / 2);
    const top = highest([0, ...u.at, p.sideM], [0, ...u.values, 0]);
    const rise = highest([0, ...v.at, p.sideM], [0, ...v.values, 0]);
    return {
      nusselt: -diffusionOut(mesh, flow.finest, 0, "left") / (diffusivityOf(p) * (p.warmK - p.coldK)),
      uMax: top.value * scale,
      vMax: rise.value * scale,
      uMaxAt: top.x / p.sideM,
      vMaxAt: rise.x / p.sideM,
    };
  },
  mirror: (p) => ({ point: (x, y) => [p.sideM - x, p.sideM - y], velocity: [-1, -1] }),
  second: (flow, p, mesh) => {
    const scale = diffusivityOf(p) * (p.warmK - p.coldK);
    return [
      {
        quantityKey: "nusselt",
        name: "mean Nusselt number",
        unit: "1",
        first: -diffusionOut(mesh, flow.finest, 0, "left") / scale,
        firstBy: "the heat of the warm wall",
        second: heatThroughMiddle(mesh, flow.finest, p) / scale,
        secondBy: "the heat carried and conducted through the vertical mid-plane",
      },
    ];
  },
  profiles: (flow, p, mesh) => {
    const scale = p.sideM / diffusivityOf(p);
    const u = alongColumn(mesh, flow.finest.u, p.sideM / 2);
    const v = alongRow(mesh, flow.finest.v, p.sideM / 2);
    const share = (at: number[]) => [0, ...at.map((q) => q / p.sideM), 1];
    const walls = (values: number[]) => [0, ...values.map((q) => q * scale), 0];
    return [
      {
        key: "uMid",
        name: "velocity on the vertical mid-plane",
        abscissa: { name: "y/L", unit: "1", values: share(u.at) },
        value: { name: "u L/a", unit: "1", values: walls(u.values) },
      },
      {
        key: "vMid",
        name: "velocity on the horizontal mid-plane",
        abscissa: { name: "x/L", unit: "1", values: share(v.at) },
        value: { name: "v L/a", unit: "1", values: walls(v.values) },
      },
    ];
  },
  errorNorms: () => [],
});
