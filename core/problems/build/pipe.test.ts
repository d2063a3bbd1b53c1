import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { order } from "./problemRunsForTests.ts";

describeProblem("pipe");
describeProblem("pipe-entry", { scale: 0.5 });

test("velocity of the developed flow at order 2", () => expect(order("pipe", {}, 0, 2)).toBeGreaterThan(1.85));
