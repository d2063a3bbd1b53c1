import { describe, expect, test } from "vitest";
import type { BalanceRecord } from "../balance/balance.ts";
import { checkSetup } from "../setup/checks.ts";
import { SteadyGas } from "../solver/compressible/gasFlow.ts";
import { fromPlain, toPlain } from "../solver/wire.ts";
import { BenchJob } from "./benchJob.ts";
import { DEFAULT_NUMERICS, numericsOf, setupOf } from "./caseSetup.ts";
import { BENCH_PROBLEMS, benchProblem, presetFormulas, presetParameters } from "./catalogue.ts";
import type { Numerics, RunSettings } from "./runSettings.ts";

interface Changes {
  readonly scale?: number;
  readonly numerics?: Partial<Numerics>;
  readonly parameters?: Readonly<Record<string, number>>;
  readonly formulas?: Readonly<Record<string, string>>;
  readonly shape?: "rows" | "smooth" | "jittered" | "triangles" | "hexagons";
}

function settingsOf(id: string, c: Changes = {}): RunSettings {
  const p = benchProblem(id);
  const { baseNx, baseNy, gradingX, gradingY, shape } = p.family;
  const scale = c.scale ?? 1;
  return {
    problemId: id,
    parameters: { ...presetParameters(p), ...c.parameters },
    formulas: { ...presetFormulas(p), ...c.formulas },
    numerics: { ...DEFAULT_NUMERICS, ...p.numerics, ...c.numerics },
    mesh: {
      nx: Math.round(baseNx * scale),
      ny: Math.round(baseNy * scale),
      gradingX,
      gradingY,
      ...((c.shape ?? shape) ? { shape: c.shape ?? shape } : {}),
    },
    code: "bench",
  };
}
function run(id: string, c: Changes = {}, most = Number.POSITIVE_INFINITY): BenchJob {
  const job = new BenchJob(settingsOf(id, c));
  for (let k = 0; k < most && job.underWay; k++) job.step();
  return job;
}

/** Small and short versions of every problem, enough to close balances and to hold and go on. */
const SMALL: Record<string, Changes> = {
  "lidded-box": { scale: 0.5 },
  "pipe-entry": { scale: 0.5 },
  cylinders: { scale: 0.5 },
  wake: { scale: 0.5, shape: "triangles" },
  eddies: { scale: 0.5, parameters: { endTimeS: 0.5 } },
  chamber: { scale: 0.5 },
  step: { scale: 0.5 },
  post: { scale: 0.5 },
  "post-shedding": { scale: 0.5, parameters: { endTimeS: 0.4 } },
  heated: { scale: 0.5, parameters: { section: 1, wall: 1 } },
  "shock-tube": { scale: 0.5 },
  ramp: { scale: 0.4 },
  corner: { scale: 0.4 },
  "contoured-duct": { scale: 0.5 },
  "travelling-vortex": { scale: 0.5, parameters: { passes: 0.1 } },
  "manufactured-flow": { shape: "hexagons" },
  "manufactured-gas": { scale: 0.5, parameters: { viscosityPaS: 200 } },
};

/** Net over throughput of everything a record balances. */
function misfits(b: BalanceRecord): Record<string, number> {
  const out: Record<string, number> = {};
  const add = (what: string, net: number, parts: number[]) => {
    const through = Math.max(...parts.map(Math.abs));
    if (through > 0) out[what] = Math.abs(net) / through;
  };
  const sum = (v: number[]) => v.reduce((s, x) => s + x, 0);
  const mass = b.boundaries.map((r) => r.mass ?? 0);
  add("mass", sum(mass) + (b.storage?.mass ?? 0) - (b.sources?.mass ?? 0), [...mass, b.massReference ?? 0]);
  const all = b.boundaries
    .flatMap((r) => [...(r.momentumX ?? []), ...(r.momentumY ?? [])])
    .concat(b.bodyForce ?? [], 0.1 * (b.momentumReference ?? 0));
  // Where everything is joined, no boundary pushes: what is left is rounding.
  if (b.boundaries.some((r) => r.momentumX))
    add("x", sum(b.boundaries.flatMap((r) => [...(r.momentumX ?? [])])) - (b.bodyForce?.[0] ?? 0) + (b.storage?.momentum?.[0] ?? 0), all);
  if (b.boundaries.some((r) => r.momentumY) && b.boundaries.every((r) => r.momentumY || r.name.includes("joined")))
    add("y", sum(b.boundaries.flatMap((r) => [...(r.momentumY ?? [])])) - (b.bodyForce?.[1] ?? 0) + (b.storage?.momentum?.[1] ?? 0), all);
  for (const key of Object.keys(b.boundaries[0]?.scalars ?? {})) {
    const parts = b.boundaries.map((r) => sum([...(r.scalars?.[key] ?? [])]));
    add(key, sum(parts) - (b.sources?.[key] ?? 0) + (b.storage?.scalars?.[key] ?? 0), parts);
  }
  return out;
}

describe.each(BENCH_PROBLEMS.map((p) => p.id))("%s", (id) => {
  const c = SMALL[id] ?? {};
  const tight: Changes =
    benchProblem(id).physicsWords.time === "steady" && id !== "contoured-duct" && id !== "corner"
      ? { ...c, numerics: { dropOrders: 11, maxIterations: 600 } }
      : c;

  test("closes its balances and, held halfway and written to a file, goes on to the same bits", () => {
    const whole = run(id, tight);
    expect(whole.simulation.state).toMatch(/^reached/);
    {
      const found = misfits(whole.simulation.balance());
      expect(found.mass ?? 0).toBeLessThan(whole.simulation instanceof SteadyGas ? 1e-6 : 1e-9);
      for (const value of Object.values(found)) expect(value).toBeLessThan(tight === c ? 1e-4 : 1e-6);
    }
    const half = Math.floor(whole.rows.length / 2);
    const before = new BenchJob(settingsOf(id, tight));
    while (before.rows.length < half) before.step();
    const file = JSON.stringify(toPlain(before.save()));
    const after = new BenchJob(settingsOf(id, tight));
    after.restore(fromPlain(JSON.parse(file)) as never);
    while (after.underWay) after.step();
    expect(after.rows).toEqual(whole.rows);
    after.simulation.fields().forEach((f, k) => {
      expect(Buffer.from(f.values.buffer).equals(Buffer.from(whole.simulation.fields()[k].values.buffer))).toBe(true);
    });
  });

  test("delivers the quantities it names, and a yardstick for its presets", () => {
    const p = benchProblem(id);
    const yardsticks = p.yardsticks(presetParameters(p), presetFormulas(p));
    const known = new Set(p.quantities.map((q) => q.key));
    expect(yardsticks.some((y) => y.validity.inside)).toBe(true);
    for (const y of yardsticks) for (const v of y.values) expect(known.has(v.quantityKey) && Number.isFinite(v.value)).toBe(true);
    for (const q of p.similarity ?? []) expect(Number.isFinite(q.solve(q.preset, presetParameters(p)))).toBe(true);
  });
});

const order = (id: string, c: Changes, field: number, from: number) => {
  const [a, b] = [from, 2 * from].map((scale) => run(id, { ...c, scale }).result().errorNorms[field].l2);
  return Math.log2(a / b);
};

describe("orders on exact cases", () => {
  test.each(["rows", "smooth", "jittered", "triangles", "hexagons"] as const)("grid wake on %s: velocity at order 2", (shape) => {
    for (const field of [0, 1]) expect(Math.abs(order("wake", { shape }, field, 2) - 2)).toBeLessThan(0.15);
  });
  test.each([
    ["pipe", 0, 2],
    ["cylinders", 0, 1],
    ["manufactured-gas", 0, 2],
    ["travelling-vortex", 0, 1],
  ])("%s at order 2", (id, field, from) => expect(order(id, {}, Number(field), Number(from))).toBeGreaterThan(1.85));
  test("decaying eddies, in space and time at once", () => expect(Math.abs(order("eddies", {}, 0, 1) - 2)).toBeLessThan(0.15));
  test("a manufactured flow that changes in time, on bent rows", () => {
    const formulas = {
      streamFunction: "y + 0.2 * sin(pi * x) * sin(pi * y) * cos(2 * t) / pi",
      pressure: "0.3 * cos(pi * x) * cos(pi * y) * sin(2 * t)",
    };
    expect(order("manufactured-flow", { formulas, shape: "smooth" }, 0, 1)).toBeGreaterThan(1.85);
  });
  test("a viscous gas, manufactured: shear and heat flow included", () =>
    expect(order("manufactured-gas", { parameters: { viscosityPaS: 200 }, shape: "smooth" }, 0, 1)).toBeGreaterThan(1.8));
  test("triangles, whose slopes take in the cells around their corners: order 2 for a gas", () =>
    expect(order("manufactured-gas", { shape: "triangles" }, 0, 1)).toBeGreaterThan(1.9));
  test("shock tube at the order of a jump", () => {
    const [a, b] = [1, 2].map((scale) => run("shock-tube", { scale }).result().errorNorms[0].l1);
    expect(Math.log2(a / b)).toBeGreaterThan(0.7);
  });
});

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

describe("published figures", () => {
  const at = (id: string, key: string, scale: number, parameters = {}) => run(id, { scale, parameters }).result().quantities[key];
  test("chamber at Ra 1e5: Nusselt number extrapolates to within 0.1 %", () => {
    const p = benchProblem("chamber");
    const warmK = p.similarity?.[0].solve(1e5, presetParameters(p)) ?? 0;
    const [a, b] = [1, 2].map((s) => at("chamber", "nusselt", s, { warmK }));
    expect(Math.abs((b + (b - a) / 3) / 4.5216 - 1)).toBeLessThan(0.001);
  });
  test("post at Re 20: drag extrapolates to within 0.1 %", () => {
    const [a, b] = [1, 2].map((s) => at("post", "drag", s));
    expect(Math.abs((b + (b - a) / 3) / 5.57953523384 - 1)).toBeLessThan(0.001);
  });
  test("step at Re 200: reattachment within 1 %", () => expect(Math.abs(at("step", "reattachment", 2) / 4.982 - 1)).toBeLessThan(0.01));
  test("a Nusselt number is read where it has developed: the stretch before gives the same, and it falls onto the published value at order 2", () => {
    const results = [1, 2].map((scale) => run("heated", { scale, parameters: {} }).result());
    const [a, b] = results.map((r) => r.quantities.nusselt);
    expect(Math.abs((b + (b - a) / 3) / 7.5407 - 1)).toBeLessThan(0.0005);
    const twice = results[1].second?.find((s) => s.quantityKey === "nusselt");
    expect(Math.abs((twice?.second ?? 0) / (twice?.first ?? 1) - 1)).toBeLessThan(0.0002);
  });
  test("developed Nusselt numbers of duct and pipe", () => {
    for (const [section, wall, nusselt] of [
      [0, 0, 7.5407],
      [0, 1, 8.2353],
      [1, 0, 3.6568],
      [1, 1, 4.3636],
    ])
      expect(Math.abs(at("heated", "nusselt", 2, { section, wall }) / nusselt - 1)).toBeLessThan(0.0045);
  });
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

test("a flow too lively for its mesh is calmed instead of lost: buoyant, Ra 1e6 on 32 x 32", () => {
  const chamber = benchProblem("chamber");
  const number = chamber.similarity?.[0];
  if (!number) throw new Error("the chamber has a Rayleigh number");
  const job = run("chamber", { scale: 4 / 3, parameters: { [number.sets]: number.solve(1e6, presetParameters(chamber)) } }, 200);
  expect(job.simulation.state).toBe("reached-target");
  expect(Math.abs(job.result().quantities.nusselt / 8.825 - 1)).toBeLessThan(0.02);
});
