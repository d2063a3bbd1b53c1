import { type Block, joinBlocks } from "../../mesh/blocks.ts";
import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { gradingFunction } from "../../mesh/grading.ts";
import { boundaryOf } from "../../monitors/boundary.ts";
import { pchip } from "../../numeric/pchip.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../../solver/incompressible/steadyFlow.ts";
import type { StepParameters } from "../describe/backwardFacingStep.ts";
import { backwardFacingStep as descriptionBackwardFacingStep } from "../describe/backwardFacingStep.ts";
import { crossing } from "../describe/common.ts";
import { backwardFacingStep as truthBackwardFacingStep } from "../truth/backwardFacingStep.ts";
import { problem } from "./problem.ts";

/** A parabola comes in above the step; walls along both sides; a given pressure at the end. */
export function backwardFacingStepPhysics(p: StepParameters): FlowPhysics {
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
function floorShear(flow: SteadyFlow, p: StepParameters, mesh: FaceMesh) {
  const b = boundaryOf(mesh, "floor");
  const rows = Array.from({ length: b.count }, (_, k) => {
    const f = b.start + k;
    return { x: mesh.faceCentreM[2 * f] / p.stepM, shear: flow.finest.boundaryTerms(f).shear[0] / Math.abs(mesh.areaVectorM[2 * f + 1]) };
  }).filter((r) => r.x > 0);
  rows.sort((a, c) => a.x - c.x);
  return { x: rows.map((r) => r.x), shear: rows.map((r) => r.shear) };
}

/** Flow over a step that doubles the channel. */
export const backwardFacingStep = problem<StepParameters, FaceMesh, SteadyFlow>({
  ...descriptionBackwardFacingStep,
  ...truthBackwardFacingStep,
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
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, backwardFacingStepPhysics(p), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
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
