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

test("a flow too lively for its mesh is calmed instead of lost: Ra 1e6 on 32 x 32", () => {
  const chamber = benchProblem("chamber");
  const number = chamber.similarity?.[0];
  if (!number) throw new Error("the chamber has a Rayleigh number");
  const job = run("chamber", { scale: 4 / 3, parameters: { [number.sets]: number.solve(1e6, presetParameters(chamber)) } }, 200);
  expect(job.simulation.state).toBe("reached-target");
  expect(Math.abs(job.result().quantities.nusselt / 8.825 - 1)).toBeLessThan(0.02);
});
