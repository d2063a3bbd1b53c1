import { joinBlocks } from "../../mesh/blocks.ts";
import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { gradingFunction } from "../../mesh/grading.ts";
import { forceOn } from "../../monitors/boundary.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../../solver/incompressible/steadyFlow.ts";
import { samplerOf } from "../../solver/readings/sampler.ts";
import { line } from "../describe/common.ts";
import type { CylindersParameters } from "../describe/cylinders.ts";
import { cylinders as descriptionCylinders } from "../describe/cylinders.ts";
import { constants, cylinders as truthCylinders, turning } from "../truth/cylinders.ts";
import { fieldError } from "./errorNorms.ts";
import { problem } from "./problem.ts";

/** Two walls that turn about one centre, each at its own speed. */
export function cylindersPhysics(p: CylindersParameters): FlowPhysics {
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

/** Circular flow between two rotating cylinders on a ring of cells. */
export const cylinders = problem<CylindersParameters, FaceMesh, SteadyFlow>({
  ...descriptionCylinders,
  ...truthCylinders,
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
});
