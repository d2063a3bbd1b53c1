import { type RectangleMesh, type RectangleSpec, rectangleMesh } from "../mesh/rectangle.ts";
import { rectangleQuality } from "../mesh/rectangleQuality.ts";
import { revolved } from "../mesh/revolved.ts";
import { boundaryOf } from "../monitors/boundary.ts";
import { interpolateAt } from "../numeric/lagrange.ts";
import type { FlowPhysics } from "../solver/incompressible/flowLevel.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../solver/incompressible/steadyFlow.ts";
import { AIR, FLUID } from "./common.ts";
import { centres, type Parameters, problem } from "./problem.ts";
import type { MeshSpec } from "./runSettings.ts";

const PLANE = 0;
const HELD = 0;
/** excess of the held wall, K, or slope at the wall per half width of the heated one */
const WARMTH = 10;

const nuOf = (p: Parameters) => p.viscosityPaS / p.densityKgM3;
const halfOf = (p: Parameters) => p.widthM / 2;
/** hydraulic diameter: twice the width of a duct, the diameter of a pipe */
const hydraulicOf = (p: Parameters) => (p.section === PLANE ? 2 * p.widthM : p.widthM);
const pecletOf = (p: Parameters) => (p.meanVelocityMS * hydraulicOf(p) * p.prandtl) / nuOf(p);
const sizeOf = (p: Parameters, spec: MeshSpec): RectangleSpec => ({ lengthM: p.lengthM, heightM: halfOf(p), ...spec, periodicX: false });

/** stretch the developed profile is read over, shares of the length: further on what the outlet asks for reaches back */
const READ_FROM = 0.7;
const READ_TO = 0.85;
const READINGS = 16;

const developed = (p: Parameters, y: number) => (p.section === PLANE ? 1.5 : 2) * p.meanVelocityMS * (1 - (y / halfOf(p)) ** 2);

export function heatedPhysics(p: Parameters): FlowPhysics {
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

/** Developed Nusselt numbers. @source Shah & London, Laminar Flow Forced Convection in Ducts (1978), tables 2 and 42 */
const NUSSELT = { duct: { held: 7.5407, heated: 8.2353 }, pipe: { held: 3.6568, heated: 4.3636 } } as const;

function localNusselt(flow: SteadyFlow, p: Parameters, mesh: RectangleMesh): Float64Array {
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
function nusseltOver(flow: SteadyFlow, p: Parameters, mesh: RectangleMesh, from: number, to: number): number {
  const { x } = centres(mesh);
  const local = localNusselt(flow, p, mesh);
  let sum = 0;
  for (let k = 0; k < READINGS; k++) sum += interpolateAt(x, local, (from + ((k + 0.5) / READINGS) * (to - from)) * p.lengthM, 2);
  return sum / READINGS;
}

/** Developed flow heated at its walls, in a duct between plates or in a pipe. */
export const heated = problem<RectangleMesh, SteadyFlow>({
  id: "heated",
  title: "Heated duct or pipe",
  kind: "exact",
  tests: "Transport of heat by a known flow and its passage through a wall, held at a temperature or heated evenly.",
  order: "Order 2 in the developed Nusselt number.",
  formalOrder: 2,
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: false },
  parameters: [
    {
      key: "widthM",
      label: "Width or diameter",
      unit: "m",
      preset: 0.01,
      min: 1e-5,
      max: 10,
      help: "Between the plates, or across the pipe; half of it is computed.",
    },
    { key: "lengthM", label: "Length", unit: "m", preset: 0.2, min: 1e-5, max: 1000, help: "Long enough for the temperature profile to develop." },
    { key: "meanVelocityMS", label: "Mean velocity", unit: "m/s", preset: 0.15, min: 1e-9, max: 100, help: "Of the developed flow that enters." },
    { key: "prandtl", label: "Prandtl number", unit: "", preset: AIR.prandtl, min: 0.001, max: 1e4, help: "Of the fluid." },
    {
      key: "section",
      label: "Section",
      unit: "",
      preset: 0,
      min: 0,
      max: 1,
      help: "Plane or revolved.",
      choices: [
        { value: 0, name: "duct between plates" },
        { value: 1, name: "pipe" },
      ],
    },
    {
      key: "wall",
      label: "Wall",
      unit: "",
      preset: 0,
      min: 0,
      max: 1,
      help: "What is known at the wall.",
      choices: [
        { value: 0, name: "held at a temperature" },
        { value: 1, name: "heated evenly" },
      ],
    },
    ...FLUID,
  ],
  quantities: [{ key: "nusselt", name: "developed Nusselt number", symbol: "Nu", unit: "1", limit: 0.005, derivative: true }],
  family: { baseNx: 48, baseNy: 8, ratio: 2, count: 3, gradingX: { kind: "low-end", strength: 1.2 }, gradingY: { kind: "uniform" } },
  graded: true,
  numerics: {},
  similarity: [
    {
      key: "peclet",
      label: "Peclet number",
      preset: 150,
      sets: "meanVelocityMS",
      solve: (pe, p) => (pe * nuOf(p)) / (p.prandtl * hydraulicOf(p)),
      note: "By hydraulic diameter.",
    },
  ],
  reference: (p) => ({ velocityMS: p.meanVelocityMS, lengthM: hydraulicOf(p), velocityName: "mean velocity", lengthName: "hydraulic diameter" }),
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
  yardsticks: (p) => {
    const value = NUSSELT[p.section === PLANE ? "duct" : "pipe"][p.wall === HELD ? "held" : "heated"];
    const graetz = (READ_FROM * p.lengthM) / (hydraulicOf(p) * pecletOf(p));
    return [
      {
        key: "heated-developed",
        name: "Developed Nusselt number",
        kind: "exact",
        source: "Shah & London, Laminar Flow Forced Convection in Ducts (1978)",
        validity: {
          sentence: `Holds where the profile has developed, distance to the reading over diameter and Peclet number above about 0.05 (here ${graetz.toPrecision(2)}), at Peclet numbers above about 50 (here ${pecletOf(p).toPrecision(3)}).`,
          inside: graetz > 0.04 && pecletOf(p) >= 50,
        },
        values: [{ quantityKey: "nusselt", value, standardUncertainty: 5e-5, uncertaintyNote: "exact series, digits as printed" }],
        profiles: [],
      },
    ];
  },
});
