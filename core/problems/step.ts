import { type Block, joinBlocks } from "../mesh/blocks.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { gradingFunction } from "../mesh/grading.ts";
import { boundaryOf } from "../monitors/boundary.ts";
import { pchip } from "../numeric/pchip.ts";
import type { FlowPhysics } from "../solver/incompressible/flowLevel.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../solver/incompressible/steadyFlow.ts";
import { AIR, crossing, FLUID, STEADY_PLANE } from "./common.ts";
import { type Parameters, problem } from "./problem.ts";

/** by mean velocity and twice the height of the inlet channel, which is its hydraulic diameter */
const reynoldsOf = (p: Parameters) => (2 * p.stepM * p.meanVelocityMS * p.densityKgM3) / p.viscosityPaS;

/** Reattachment over step height, expansion 2, developed flow at the step. @source Erturk, Comput. Fluids 37 (2008) 633, table 1 */
const REATTACHMENT: readonly (readonly [reynolds: number, length: number])[] = [
  [100, 2.922],
  [200, 4.982],
  [300, 6.751],
  [400, 8.237],
  [500, 9.42],
  [600, 10.349],
  [700, 11.129],
  [800, 11.834],
];
/** Inlet at the step itself, Re 800. @source Gartling, Int. J. Numer. Methods Fluids 11 (1990) 953: 6.10 channel heights */
const WITHOUT_CHANNEL = 12.2;

export function stepPhysics(p: Parameters): FlowPhysics {
  const h = p.stepM;
  const inflow = (_x: number, y: number) => [6 * p.meanVelocityMS * ((y - h) / h) * (1 - (y - h) / h), 0] as const;
  return {
    densityKgM3: p.densityKgM3,
    kinematicViscosity: p.viscosityPaS / p.densityKgM3,
    bodyForce: [0, 0],
    boundaries: {
      inlet: { kind: "velocity", velocity: inflow },
      outlet: { kind: "outlet", pressureOverDensity: 0 },
      floor: { kind: "wall" },
      ceiling: { kind: "wall" },
      step: { kind: "wall" },
    },
  };
}

/** Shear on the floor downstream of the step over density, positive along x, with the distance from the step over its height. */
function floorShear(flow: SteadyFlow, p: Parameters, mesh: FaceMesh) {
  const b = boundaryOf(mesh, "floor");
  const rows = Array.from({ length: b.count }, (_, k) => {
    const f = b.start + k;
    return { x: mesh.faceCentreM[2 * f] / p.stepM, shear: flow.finest.boundaryTerms(f).shear[0] / Math.abs(mesh.areaVectorM[2 * f + 1]) };
  }).filter((r) => r.x > 0);
  rows.sort((a, c) => a.x - c.x);
  return { x: rows.map((r) => r.x), shear: rows.map((r) => r.shear) };
}

const AIR_NU = AIR.viscosity / AIR.density;

/** Flow over a step that doubles the channel. */
export const step = problem<FaceMesh, SteadyFlow>({
  id: "step",
  title: "Step with reattachment",
  kind: "published",
  tests: "Separation at an edge, a long recirculation and its reattachment, with an outlet that must not disturb them.",
  order: "Order 2 in the reattachment length, once the shear layer is resolved; the edge itself is singular.",
  formalOrder: 2,
  physicsWords: STEADY_PLANE,
  parameters: [
    { key: "stepM", label: "Height of the step", unit: "m", preset: 0.01, min: 1e-5, max: 10, help: "The channel upstream is as high as the step." },
    {
      key: "lengthSteps",
      label: "Length behind the step",
      unit: "",
      preset: 20,
      min: 4,
      max: 200,
      help: "In step heights; at least twice the reattachment length.",
    },
    {
      key: "inletSteps",
      label: "Channel before the step",
      unit: "",
      preset: 5,
      min: 0,
      max: 50,
      help: "In step heights; 0 lets the developed flow in at the step itself.",
    },
    {
      key: "meanVelocityMS",
      label: "Mean velocity of the inflow",
      unit: "m/s",
      preset: (200 * AIR_NU) / 0.02,
      min: 1e-9,
      max: 1000,
      help: "A developed profile enters.",
    },
    ...FLUID,
  ],
  quantities: [
    { key: "reattachment", name: "reattachment length over step height", symbol: "x_r/h", unit: "1", limit: 0.01, derivative: true },
    { key: "pressureRise", name: "pressure at the outlet over the inlet's, in dynamic pressures", symbol: "C_p", unit: "1", limit: 0.02 },
  ],
  family: { baseNx: 60, baseNy: 16, ratio: 2, count: 3, gradingX: { kind: "low-end", strength: 1.3 }, gradingY: { kind: "uniform" } },
  counts: { nx: "cells behind the step", ny: "cells over the whole height" },
  graded: true,
  numerics: {},
  similarity: [
    {
      key: "reynolds",
      label: "Reynolds number",
      preset: 200,
      sets: "meanVelocityMS",
      solve: (re, p) => (re * p.viscosityPaS) / (2 * p.stepM * p.densityKgM3),
      note: "By mean velocity and twice the inlet height; published every 100 from 100 to 800.",
    },
  ],
  reference: (p) => ({ velocityMS: p.meanVelocityMS, lengthM: 2 * p.stepM, velocityName: "mean velocity", lengthName: "twice the step" }),
  cellCount: (p, spec) => {
    const half = Math.max(1, Math.round(spec.ny / 2));
    return 2 * spec.nx * half + (p.inletSteps > 0 ? Math.max(2, Math.round((spec.nx * p.inletSteps) / p.lengthSteps)) * half : 0);
  },
  mesh: (p, spec) => {
    const h = p.stepM;
    const length = p.lengthSteps * h;
    const inlet = p.inletSteps * h;
    const alongS = gradingFunction(spec.gradingX);
    const half = Math.max(1, Math.round(spec.ny / 2));
    // Cells of the inlet channel as long as those just behind the step grow to be on average.
    const before = Math.max(2, Math.round((spec.nx * p.inletSteps) / p.lengthSteps));
    const blocks: Block[] = [
      { nx: spec.nx, ny: half, alongS, place: (s, t) => [s * length, t * h], sides: { left: "step", bottom: "floor", right: "outlet" } },
      {
        nx: spec.nx,
        ny: half,
        alongS,
        place: (s, t) => [s * length, h + t * h],
        sides: { top: "ceiling", right: "outlet", ...(inlet > 0 ? {} : { left: "inlet" }) },
      },
    ];
    if (inlet > 0) {
      const back = (k: number) => 1 - alongS(1 - k);
      blocks.push({
        nx: before,
        ny: half,
        alongS: back,
        place: (s, t) => [(s - 1) * inlet, h + t * h],
        sides: { left: "inlet", bottom: "step", top: "ceiling" },
      });
    }
    return joinBlocks(blocks);
  },
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, stepPhysics(p), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => {
    const { x, shear } = floorShear(flow, p, mesh);

    const inlet = boundaryOf(mesh, "inlet");
    let [push, area] = [0, 0];
    for (let f = inlet.start; f < inlet.start + inlet.count; f++) {
      push -= flow.finest.boundaryTerms(f).pressure[0];
      area -= mesh.areaVectorM[2 * f];
    }
    return { reattachment: smoothCrossing(x, shear), pressureRise: -(push / area) / (0.5 * p.meanVelocityMS ** 2) };
  },
  profiles: (flow, p, mesh) => {
    const { x, shear } = floorShear(flow, p, mesh);
    return [
      {
        key: "floor",
        name: "shear on the floor",
        abscissa: { name: "x/h", unit: "1", values: x },
        value: { name: "tau/(rho U^2)", unit: "1", values: shear.map((s) => s / p.meanVelocityMS ** 2) },
      },
    ];
  },
  errorNorms: () => [],
  yardsticks: (p) => {
    const re = reynoldsOf(p);
    const long = (value: number) => p.lengthSteps > 1.5 * value;
    const make = (key: string, name: string, source: string, at: number, value: number, channel: boolean) => ({
      key,
      name,
      kind: "table" as const,
      source,
      validity: {
        sentence: `Holds at Re ${at}${channel ? " with a channel before the step" : " with the developed profile at the step"}, and a length well beyond ${value} steps; here Re ${re.toPrecision(4)}, ${p.inletSteps} and ${p.lengthSteps} steps.`,
        inside: Math.abs(re / at - 1) < 0.005 && long(value) && channel === p.inletSteps >= 3,
      },
      values: [
        { quantityKey: "reattachment", value, standardUncertainty: 0.002 * value, uncertaintyNote: "0.2 % from the spread of published figures" },
      ],
      profiles: [],
    });
    const out = REATTACHMENT.filter(([r]) => Math.abs(re / r - 1) < 0.05).map(([r, value]) =>
      make(`step-${r}`, `Published reattachment, Re ${r}`, "Erturk, Comput. Fluids 37 (2008) 633", r, value, true),
    );
    if (Math.abs(re / 800 - 1) < 0.05) {
      out.push(
        make("step-bare", "Published reattachment, no channel", "Gartling, Int. J. Numer. Methods Fluids 11 (1990) 953", 800, WITHOUT_CHANNEL, false),
      );
    }
    return out.filter((y) => y.values[0].value > 0);
  },
});

/** Last change from backward to forward flow, refined on a monotone cubic. */
function smoothCrossing(x: readonly number[], shear: readonly number[]): number {
  const coarse = crossing(x, shear, 0.5);
  if (!Number.isFinite(coarse)) return Number.NaN;
  const k = x.findIndex((q) => q > coarse);
  let [a, b] = [x[Math.max(0, k - 1)], x[k]];
  for (let i = 0; i < 60; i++) {
    const m = (a + b) / 2;
    if (pchip(x, shear, m) < 0) a = m;
    else b = m;
  }
  return (a + b) / 2;
}
