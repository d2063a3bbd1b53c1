import { expect, test } from "vitest";
import { BenchJob } from "./benchJob.ts";
import { describeProblem } from "./describeProblemForTests.ts";
import { order, settingsOf } from "./problemRunsForTests.ts";

describeProblem("cylinders", { scale: 0.5 });

test("velocity at order 2", () => expect(order("cylinders", {}, 0, 1)).toBeGreaterThan(1.85));

test("a ring of 63 x 7 cells, whose coarsest level has only nine, settles in few iterations", () => {
  const parameters = { innerM: 0.02582, outerM: 0.05834, innerSpin: 1.133, outerSpin: 0.6343, densityKgM3: 1.217, viscosityPaS: 0.00001199 };
  const uniform = { kind: "uniform" } as const;
  const job = new BenchJob({ ...settingsOf("cylinders", { parameters }), mesh: { nx: 63, ny: 7, gradingX: uniform, gradingY: uniform } });
  while (job.underWay) job.step();
  expect(job.simulation.state).toBe("reached-target");
  expect(job.simulation.iterations).toBeLessThan(40);
});
