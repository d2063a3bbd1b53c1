import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { run } from "./problemRunsForTests.ts";

describeProblem("step", { scale: 0.5 });

test("Re 200: reattachment within 1 % of the published one", () =>
  expect(Math.abs(run("step", { scale: 2 }).result().quantities.reattachment / 4.982 - 1)).toBeLessThan(0.01));
