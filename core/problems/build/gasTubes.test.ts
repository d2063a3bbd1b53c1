import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { run } from "./problemRunsForTests.ts";

describeProblem("shock-tube", { scale: 0.5 });

test("at the order of a jump", () => {
  const [a, b] = [1, 2].map((scale) => run("shock-tube", { scale }).result().errorNorms[0].l1);
  expect(Math.log2(a / b)).toBeGreaterThan(0.7);
});
