import { joinBlocks } from "../mesh/blocks.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { gradingFunction } from "../mesh/grading.ts";
import { forceOn } from "../monitors/boundary.ts";
import type { FlowPhysics } from "../solver/incompressible/flowLevel.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../solver/incompressible/steadyFlow.ts";
import { samplerOf } from "../solver/readings/sampler.ts";
import { exact, FLUID, line, STEADY_PLANE, UNIFORM } from "./common.ts";
import { fieldError } from "./errorNorms.ts";
import { type Parameters, problem } from "./problem.ts";

/** Constants of u_theta = a r + b / r between the two cylinders. */
function constants(p: Parameters): { a: number; b: number } {
  const [r1, r2] = [p.innerM, p.outerM];
  const span = r2 * r2 - r1 * r1;
  return {
    a: (p.outerSpin * r2 * r2 - p.innerSpin * r1 * r1) / span,
    b: ((p.innerSpin - p.outerSpin) * r1 * r1 * r2 * r2) / span,
  };
}

const turning = (p: Parameters, r: number) => constants(p).a * r + constants(p).b / r;

export function cylindersPhysics(p: Parameters): FlowPhysics {
  const spin = (omega: number) => (x: number, y: number) => [-omega * y, omega * x] as const;
  return {
    densityKgM3: p.densityKgM3,
    kinematicViscosity: p.viscosityPaS / p.densityKgM3,
    bodyForce: [0, 0],
    boundaries: {
      inner: { kind: "moving-wall", velocity: spin(p.innerSpin) },
      outer: { kind: "moving-wall", velocity: spin(p.outerSpin) },
    },
  };
}

const speedOf = (p: Parameters) => Math.max(Math.abs(p.innerSpin) * p.innerM, Math.abs(p.outerSpin) * p.outerM);

/** Circular flow between two rotating cylinders on a ring of cells. */
export const cylinders = problem<FaceMesh, SteadyFlow>({
  id: "cylinders",
  title: "Rotating cylinders",
  kind: "exact",
  tests: "Curved walls and a mesh that closes on itself: convection along circles must balance pressure exactly.",
  order: "Order 2 in velocity and torque.",
  formalOrder: 2,
  physicsWords: STEADY_PLANE,
  parameters: [
    { key: "innerM", label: "Radius of the inner cylinder", unit: "m", preset: 0.02, min: 1e-5, max: 10, help: "It turns in the fluid." },
    { key: "outerM", label: "Radius of the outer cylinder", unit: "m", preset: 0.04, min: 1e-5, max: 20, help: "Around the fluid." },
    { key: "innerSpin", label: "Turning of the inner cylinder", unit: "rad/s", preset: 1, min: -1e5, max: 1e5, help: "Anticlockwise is positive." },
    { key: "outerSpin", label: "Turning of the outer cylinder", unit: "rad/s", preset: 0, min: -1e5, max: 1e5, help: "Anticlockwise is positive." },
    ...FLUID,
  ],
  quantities: [
    { key: "torque", name: "torque on the inner cylinder", symbol: "M_i", unit: "N m/m", limit: 0.005, derivative: true },
    { key: "midVelocity", name: "velocity halfway", symbol: "u_mid", unit: "m/s", limit: 0.005 },
  ],
  family: { baseNx: 32, baseNy: 8, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM },
  counts: { nx: "cells around", ny: "cells across" },
  graded: true,
  numerics: {},
  reference: (p) => ({ velocityMS: speedOf(p), lengthM: p.outerM - p.innerM, velocityName: "largest wall speed", lengthName: "gap" }),
  mesh: (p, spec) => {
    if (!(p.outerM > p.innerM)) throw new RangeError("The outer radius must be larger than the inner one.");
    const alongT = gradingFunction(spec.gradingY);
    return joinBlocks([
      {
        nx: spec.nx,
        ny: spec.ny,
        alongT,
        place: (s, t) => {
          const r = p.innerM + t * (p.outerM - p.innerM);
          const angle = -2 * Math.PI * s;
          return [r * Math.cos(angle), r * Math.sin(angle)];
        },
        sides: { bottom: "inner", top: "outer" },
      },
    ]);
  },
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, cylindersPhysics(p), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => {
    const r = (p.innerM + p.outerM) / 2;
    const around = Array.from({ length: 16 }, (_, k) => (2 * Math.PI * (k + 0.37)) / 16);
    const points = Float64Array.from(around.flatMap((a) => [r * Math.cos(a), r * Math.sin(a)]));
    const sampler = samplerOf(mesh);
    const [u, v] = [sampler.at(flow.finest.u, points), sampler.at(flow.finest.v, points)];
    const mid = around.reduce((s, a, k) => s - u[k] * Math.sin(a) + v[k] * Math.cos(a), 0) / around.length;
    return { torque: p.densityKgM3 * forceOn(mesh, flow.finest, "inner").moment, midVelocity: mid };
  },
  second: (flow, p, mesh) => [
    {
      quantityKey: "torque",
      name: "torque",
      unit: "N m/m",
      first: p.densityKgM3 * forceOn(mesh, flow.finest, "inner").moment,
      firstBy: "the shear on the inner cylinder",
      second: -p.densityKgM3 * forceOn(mesh, flow.finest, "outer").moment,
      secondBy: "the angular momentum that reaches the outer one",
    },
  ],
  profiles: (flow, p, mesh) => {
    const points = line([p.innerM, 0], [p.outerM, 0], 41);
    const values = samplerOf(mesh).at(flow.finest.v, points);
    return [
      {
        key: "across",
        name: "velocity across the gap",
        abscissa: { name: "r", unit: "m", values: Array.from(values, (_, k) => points[2 * k]) },
        value: { name: "u_theta", unit: "m/s", values: [...values] },
      },
    ];
  },
  errorNorms: (flow, p, mesh) => {
    const factor = (x: number, y: number) => turning(p, Math.hypot(x, y)) / Math.hypot(x, y);
    const { a, b } = constants(p);
    const pressure = (x: number, y: number) => {
      const r2 = x * x + y * y;
      return p.densityKgM3 * ((a * a * r2) / 2 + a * b * Math.log(r2) - (b * b) / (2 * r2));
    };
    const q = flow.finest.p.map((v) => v * p.densityKgM3);
    return [
      fieldError(mesh, "u", "m/s", flow.finest.u, (x, y) => -factor(x, y) * y),
      fieldError(mesh, "v", "m/s", flow.finest.v, (x, y) => factor(x, y) * x),
      fieldError(mesh, "p", "Pa", q, pressure, "free"),
    ];
  },
  yardsticks: (p) => {
    const at = Array.from({ length: 41 }, (_, k) => p.innerM + ((p.outerM - p.innerM) * k) / 40);
    const taylor = ((p.innerSpin * p.innerM * (p.outerM - p.innerM) * p.densityKgM3) / p.viscosityPaS) * Math.sqrt((p.outerM - p.innerM) / p.innerM);
    return [
      {
        key: "cylinders-exact",
        name: "Exact flow between cylinders",
        kind: "exact",
        source: "Exact solution of the Navier-Stokes equations; White, Viscous Fluid Flow, section 3-2.3",
        validity: {
          sentence: "Exact in the plane for any speed; a real gap would not stay plane above a Taylor number of about 41.",
          inside: Number.isFinite(taylor),
        },
        values: [exact("torque", -4 * Math.PI * p.viscosityPaS * constants(p).b), exact("midVelocity", turning(p, (p.innerM + p.outerM) / 2))],
        profiles: [{ profileKey: "across", abscissa: at, value: at.map((r) => turning(p, r)), standardUncertainty: 0, uncertaintyNote: "exact" }],
      },
    ];
  },
});
