import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { samplerOf } from "./sampler.ts";

/** Flow around a body as a control box sees it: fields per cell, pressure over density. */
export interface BoxFlow {
  readonly u: Float64Array;
  readonly v: Float64Array;
  readonly p: Float64Array;
  readonly kinematicViscosity: number;
}

export interface Box {
  readonly fromM: readonly [number, number];
  readonly toM: readonly [number, number];
}

const POINTS_A_SIDE = 400;

/**
 * Force of a steady plane flow on whatever stands inside a box, over density, per depth, m^3/s^2: what momentum, pressure and shear carry in through
 * its four sides. It shares no face with the force summed over the body.
 */
export function forceInBox(mesh: FaceMesh, flow: BoxFlow, box: Box): [number, number] {
  const sampler = samplerOf(mesh);
  const [[x0, y0], [x1, y1]] = [box.fromM, box.toM];
  const sides = [
    { from: [x0, y0], to: [x0, y1], normal: [-1, 0] },
    { from: [x1, y0], to: [x1, y1], normal: [1, 0] },
    { from: [x0, y0], to: [x1, y0], normal: [0, -1] },
    { from: [x0, y1], to: [x1, y1], normal: [0, 1] },
  ] as const;
  const points = new Float64Array(sides.flatMap(({ from, to }) => middles(from, to)));
  const slopes = [sampler.slopes(flow.u), sampler.slopes(flow.v)];
  const [u, v, p, ux, uy, vx, vy] = [flow.u, flow.v, flow.p, ...slopes.flat()].map((field) => sampler.at(field, points));
  const nu = flow.kinematicViscosity;
  let [fx, fy] = [0, 0];
  sides.forEach(({ from, to, normal: [nx, ny] }, s) => {
    const ds = Math.hypot(to[0] - from[0], to[1] - from[1]) / POINTS_A_SIDE;
    for (let k = s * POINTS_A_SIDE; k < (s + 1) * POINTS_A_SIDE; k++) {
      const through = u[k] * nx + v[k] * ny;
      fx -= (u[k] * through + p[k] * nx - nu * (2 * ux[k] * nx + (uy[k] + vx[k]) * ny)) * ds;
      fy -= (v[k] * through + p[k] * ny - nu * ((uy[k] + vx[k]) * nx + 2 * vy[k] * ny)) * ds;
    }
  });
  return [fx, fy];
}

function middles(from: readonly [number, number], to: readonly [number, number]): number[] {
  return Array.from({ length: POINTS_A_SIDE }, (_, k) => (k + 0.5) / POINTS_A_SIDE).flatMap((s) => [
    from[0] + s * (to[0] - from[0]),
    from[1] + s * (to[1] - from[1]),
  ]);
}

/** The rules of this file in words. */
export const CONTROL_BOX_RULES = rulesOf("core/solver/readings/controlBox.ts", [
  {
    rule: "second-computation",
    text: "A quantity worked out in a way that shares neither faces nor differences with the first: drag from the momentum through a box around the body, torque from the angular momentum that reaches the outer cylinder, heat from the rise of enthalpy or through the mid-plane. To agree within the mesh uncertainty of both or a tenth of the accepted error, whichever is larger; within 1 % while there is no mesh study.",
    source: "control volumes",
  },
]);
