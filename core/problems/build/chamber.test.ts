import { expect, test } from "vitest";
import { presetParameters } from "../describe/catalogue.ts";
import { benchProblem } from "./catalogue.ts";
import { describeProblem } from "./describeProblemForTests.ts";
import { run } from "./problemRunsForTests.ts";

describeProblem("chamber", { scale: 0.5 });

test("Ra 1e5: Nusselt number extrapolates to within 0.1 % of the published one", () => {
  const p = benchProblem("chamber");
  const warmK = p.similarity?.[0].solve(1e5, presetParameters(p)) ?? 0;
  const [a, b] = [1, 2].map((scale) => run("chamber", { scale, parameters: { warmK } }).result().quantities.nusselt);
  expect(Math.abs((b + (b - a) / 3) / 4.5216 - 1)).toBeLessThan(0.001);
});

const warmFor = (rayleigh: number) => {
  const p = benchProblem("chamber");
  return { warmK: p.similarity?.[0].solve(rayleigh, presetParameters(p)) ?? 0 };
};

// Odd and even sides, sides that halve once and often: whatever coarser meshes there are below them.
test.each([
  [16, 0.1],
  [17, 0.1],
  [24, 0.05],
  [33, 0.03],
  [40, 0.02],
  [44, 0.02],
  [80, 0.005],
])("Ra 1e6 settles on %i x %i, and its Nusselt number nears the published one", (n, near) => {
  const job = run("chamber", { scale: n / 24, parameters: warmFor(1e6) }, 60);
  expect(job.simulation.state).toBe("reached-target");
  expect(job.rows.length).toBeLessThanOrEqual(40);
  expect(Math.abs(job.result().quantities.nusselt / 8.825 - 1)).toBeLessThan(near);
});

test.each([1e3, 1e4, 1e5])("Ra %d settles as quickly as ever on coarse and fine meshes", (rayleigh) => {
  for (const n of [16, 64]) {
    const job = run("chamber", { scale: n / 24, parameters: warmFor(rayleigh) }, 60);
    expect(job.simulation.state).toBe("reached-target");
    expect(job.rows.length).toBeLessThanOrEqual(20);
  }
});
