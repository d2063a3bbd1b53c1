import { describe, expect, test } from "vitest";
import { BenchJob } from "../problems/build/benchJob.ts";
import { benchProblem } from "../problems/build/catalogue.ts";
import { DEFAULT_NUMERICS } from "../problems/describe/caseSetup.ts";
import { presetFormulas, presetParameters } from "../problems/describe/catalogue.ts";
import type { MeshSpec, RunSettings } from "../problems/describe/runSettings.ts";
import { packMesh } from "../solver/meshFile.ts";
import type { Monitor } from "./monitor.ts";

function solved(id: string, monitors: Record<string, Monitor>, change: Partial<RunSettings> = {}, scale = 1) {
  const problem = benchProblem(id);
  const { baseNx, baseNy, gradingX, gradingY, shape } = problem.family;
  const settings: RunSettings = {
    problemId: id,
    parameters: presetParameters(problem),
    formulas: presetFormulas(problem),
    numerics: { ...DEFAULT_NUMERICS, ...problem.numerics },
    mesh: { nx: Math.round(baseNx * scale), ny: Math.round(baseNy * scale), gradingX, gradingY, ...(shape ? { shape } : {}) },
    code: "bench",
    monitors: Object.entries(monitors).map(([key, monitor]) => ({ key, monitor })),
    ...change,
  };
  const job = new BenchJob(settings);
  while (job.underWay) job.step();
  return { job, settings, q: job.result().quantities };
}

describe("monitors agree with what the templates work out their own way", () => {
  test("forces and flows through boundaries", () => {
    const { q, job } = solved("post", {
      force: { on: "boundary", boundary: "post", take: "force along x" },
      push: { on: "boundary", boundary: "post", take: "force along x by pressure" },
      rub: { on: "boundary", boundary: "post", take: "force along x by shear" },
      through: { on: "boundary", boundary: "outlet", take: "mass flow out" },
    });
    const p = presetParameters(benchProblem("post"));
    expect(q.push + q.rub).toBeCloseTo(q.force, 14);
    const inflow = job.result().balance?.boundaries.find((b) => b.name === "inlet")?.mass ?? 0;
    expect(q.through).toBeCloseTo(-inflow, 12);
    expect(q.force / (0.5 * p.densityKgM3 * p.meanVelocityMS ** 2 * p.diameterM)).toBeCloseTo(q.drag, 10);
  });

  test("where the flow along a boundary turns: towards the template's reattachment as the mesh is refined", () => {
    const turn: Monitor = { on: "boundary", boundary: "floor", take: "place where the flow along it last turns" };
    const corner: Monitor = { ...turn, take: "place where the flow along it first turns" };
    const apart = [1, 2].map((scale) => {
      const { q, settings } = solved("step", { turn, corner }, {}, scale);
      const { stepM } = settings.parameters;
      // A small eddy of its own sits in the corner at the foot of the step.
      expect(q.corner).toBeLessThan(0.2 * stepM);
      return Math.abs(q.turn / stepM / q.reattachment - 1);
    });
    expect(apart[0]).toBeLessThan(0.04);
    expect(apart[1]).toBeLessThan(0.5 * apart[0]);
  });

  test("extrema along lines, means and integrals over the volume", () => {
    const { q, settings, job } = solved("lidded-box", {
      lowest: { on: "line", field: "u", from: [0.025, 0], to: [0.025, 0.05], take: "lowest" },
      place: { on: "line", field: "u", from: [0.025, 0], to: [0.025, 0.05], take: "place of the lowest" },
      middle: { on: "point", field: "u", at: [0.025, 0.025] },
      mean: { on: "volume", field: "u", take: "mean" },
      total: { on: "volume", field: "p", take: "integral" },
      top: { on: "volume", field: "speed", take: "y of the highest" },
    });
    const { lidSpeedMS, sideM } = settings.parameters;
    expect(Math.abs(q.lowest / lidSpeedMS / q.uMin - 1)).toBeLessThan(0.02);
    expect(q.place / sideM).toBeGreaterThan(0.1);
    expect(q.place / sideM).toBeLessThan(0.25);
    expect(Math.abs(q.middle)).toBeLessThan(0.15 * lidSpeedMS);
    // Nothing flows through the walls of a closed box, so its mean velocity vanishes with the mesh; its pressure is held at a mean of zero.
    expect(Math.abs(q.mean)).toBeLessThan(2e-3 * lidSpeedMS);
    expect(Math.abs(q.total)).toBeLessThan(1e-9 * settings.parameters.densityKgM3 * lidSpeedMS ** 2 * sideM ** 2);
    expect(q.top).toBeGreaterThan(0.95 * sideM);
    expect(job.columns.map((c) => c.key)).toEqual(expect.arrayContaining(["lowest", "middle"]));
    expect(job.rows.every((r) => r.length === job.columns.length)).toBe(true);
  });

  test("what a run does not have is refused in words", () => {
    expect(() => solved("lidded-box", { a: { on: "point", field: "smell", at: [0, 0] } }, {}, 0.25)).toThrow(/no field "smell"/);
    expect(() => solved("lidded-box", { a: { on: "boundary", boundary: "roof", take: "mass flow out" } }, {}, 0.25)).toThrow(/no boundary "roof"/);
  });
});

describe("a run that starts from another's result", () => {
  const startOf = (from: ReturnType<typeof solved>, id: string) => ({
    label: "coarse",
    problemId: id,
    parameters: from.settings.parameters,
    mesh: from.settings.mesh as never,
    fields: [],
  });

  test("reaches the same answer in fewer iterations than from rest", () => {
    const coarse = solved("lidded-box", {}, {}, 1);
    const rest = solved("lidded-box", {}, {}, 2);
    const settings = { ...rest.settings, startFrom: startOf(coarse, "lidded-box") };
    const job = new BenchJob(settings, { fields: coarse.job.simulation.fields() });
    while (job.underWay) job.step();
    expect(job.rows.length).toBeLessThan(rest.job.rows.length + 2);
    expect(job.simulation.climbing).toBeUndefined();
    expect(Math.abs(job.result().quantities.uMin / rest.q.uMin - 1)).toBeLessThan(1e-6);
  });

  test("goes on in time from a steady flow, which stays as it is", () => {
    const steady = solved("post", {}, {}, 0.5);
    const problem = benchProblem("post-shedding");
    const parameters = { ...presetParameters(problem), ...steady.settings.parameters, endTimeS: 0.05 };
    const settings: RunSettings = {
      ...steady.settings,
      problemId: "post-shedding",
      parameters,
      numerics: { ...DEFAULT_NUMERICS, ...problem.numerics },
      monitors: [{ key: "drag", monitor: { on: "boundary", boundary: "post", take: "force along x" } }],
      // Counts that would generate another mesh: the one that was kept counts.
      startFrom: { ...startOf(steady, "post"), mesh: { ...(steady.settings.mesh as MeshSpec), nx: 8 } },
    };
    const job = new BenchJob(settings, { fields: steady.job.simulation.fields(), mesh: packMesh(steady.job.mesh) });
    while (job.underWay) job.step();
    const drag = job.rows.map((r) => r[job.columns.findIndex((c) => c.key === "drag")]);
    const before = solved("post", { drag: { on: "boundary", boundary: "post", take: "force along x" } }, {}, 0.5).q.drag;
    expect(Math.abs(drag[drag.length - 1] / before - 1)).toBeLessThan(0.02);
  });
});
