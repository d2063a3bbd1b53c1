import { describe, expect, test } from "vitest";
import { chamber } from "../../problems/build/chamber.ts";
import { liddedBox } from "../../problems/build/liddedBox.ts";
import { presetParameters } from "../../problems/describe/catalogue.ts";
import type { SteadyFlow } from "./steadyFlow.ts";

const graded = { kind: "both-ends", strength: 1.5 } as const;
const numerics = { scheme: "central", dropOrders: 6, maxIterations: 200 } as const;

/** Sum over all cells of what does not balance, over the largest flux through any face. */
function unbalanced(flow: SteadyFlow): number {
  const { flux, geometry } = flow.finest;
  const net = new Float64Array(geometry.cells);
  let largest = 0;
  for (let f = 0; f < geometry.faces; f++) {
    net[geometry.owner[f]] += flux[f];
    if (f < geometry.joins) net[geometry.neighbour[f]] -= flux[f];
    largest = Math.max(largest, Math.abs(flux[f]));
  }
  return net.reduce((sum, v) => sum + Math.abs(v), 0) / largest;
}

// Between walls a pressure correction has no sum to give: rounding left in its source once grew until nothing balanced to better than 1e-7.
describe("the mass of every cell is closed to round-off, with walls all round", () => {
  test.each([24, 56, 64, 72])("lidded box, %i a side", (n) => {
    const p = presetParameters(liddedBox);
    const flow = liddedBox.simulate(p, liddedBox.mesh(p, { nx: n, ny: n, gradingX: graded, gradingY: graded }), numerics, {});
    while (flow.state === "running" || flow.state === "climbing") flow.advance();
    expect(flow.state).toBe("reached-target");
    expect(unbalanced(flow)).toBeLessThan(1e-11);
  });
  test("chamber", () => {
    const p = presetParameters(chamber);
    const flow = chamber.simulate(p, chamber.mesh(p, { nx: 40, ny: 40, gradingX: graded, gradingY: graded }), numerics, {});
    while (flow.state === "running" || flow.state === "climbing") flow.advance();
    expect(unbalanced(flow)).toBeLessThan(1e-11);
  });
});
