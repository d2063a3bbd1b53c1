import { describe, expect, test } from "vitest";
import { checkSetup } from "../../method/setup/checks.ts";
import { numericsOf, setupOf } from "../describe/caseSetup.ts";
import { presetFormulas, presetParameters } from "../describe/catalogue.ts";
import { BENCH_PROBLEMS, benchProblem } from "./catalogue.ts";
import { type Changes, run } from "./problemRunsForTests.ts";

test.each(BENCH_PROBLEMS.map((p) => [p.id, p] as const))("%s: a new case starts without a single remark", (id, p) => {
  const air = { name: "air", temperatureK: 277.15, pressurePa: 101325 };
  const setup = {
    problemId: id,
    parameters: presetParameters(p),
    formulas: presetFormulas(p),
    fluid: p.madeUpFluid ? { name: "made-up fluid" } : air,
    numerics: numericsOf(id),
  };
  expect(checkSetup(setupOf(setup)).map((r) => r.sentence)).toEqual([]);
});

test("a case far from every published table keeps the nearest, which says that it is used outside its range", () => {
  for (const id of ["lidded-box", "chamber"]) {
    const p = benchProblem(id);
    const number = p.similarity?.[0];
    if (!number) throw new Error(`${id} has a similarity number`);
    const parameters = { ...presetParameters(p), [number.sets]: number.solve(id === "chamber" ? 3e4 : 2000, presetParameters(p)) };
    const found = p.yardsticks(parameters, {});
    expect(found.length).toBeGreaterThan(0);
    expect(found.some((y) => y.validity.inside)).toBe(false);
  }
});

describe("runs that cannot go well end with a reason", () => {
  test.each([
    ["a gas torn apart", "shock-tube", { numerics: { limiter: "none", courant: 5 } }, /diverged|Density|Pressure/],
    ["a lid beyond reason", "lidded-box", { parameters: { viscosityPaS: 1e-8 }, numerics: { maxIterations: 40 } }, /./],
  ] as const)("%s", (_name, id, c, reason) => {
    const job = run(id, c as Changes);
    expect(["diverged", "reached-limit"]).toContain(job.simulation.state);
    if (job.simulation.state === "diverged") expect(job.simulation.reason ?? "diverged").toMatch(reason);
  });
  test.each([
    ["shock detached", "ramp", { angleDeg: 40 }, /cannot be turned/],
    ["rings inside out", "cylinders", { outerM: 0.01 }, /outer radius/],
    ["exit above the reservoir", "contoured-duct", { backRatio: 1.2 }, /below the reservoir/],
    ["shock outside the duct", "contoured-duct", { backRatio: 0.45 }, /outside the duct/],
  ] as const)("%s is refused before it is run", (_name, id, parameters, reason) => {
    const p = benchProblem(id);
    expect(() => {
      const all = { ...presetParameters(p), ...parameters };
      p.yardsticks(all, {});
      p.mesh(all, { nx: 8, ny: 4, gradingX: { kind: "uniform" }, gradingY: { kind: "uniform" } });
    }).toThrow(reason);
  });
});
