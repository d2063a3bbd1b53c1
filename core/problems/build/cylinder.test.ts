import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { run } from "./problemRunsForTests.ts";

describeProblem("post", { scale: 0.5 });
describeProblem("post-shedding", { scale: 0.5, parameters: { endTimeS: 0.4 } });

test("Re 20: drag extrapolates to within 0.1 % of the published one", () => {
  const [a, b] = [1, 2].map((scale) => run("post", { scale }).result().quantities.drag);
  expect(Math.abs((b + (b - a) / 3) / 5.57953523384 - 1)).toBeLessThan(0.001);
});
