import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { order } from "./problemRunsForTests.ts";

describeProblem("cylinders", { scale: 0.5 });

test("velocity at order 2", () => expect(order("cylinders", {}, 0, 1)).toBeGreaterThan(1.85));
