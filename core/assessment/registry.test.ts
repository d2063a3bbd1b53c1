import { describe, expect, test } from "vitest";
import type { CaseSetup } from "../problems/describe/caseSetup.ts";
import type { CaseEvidence } from "../records/case.ts";
import { assessCase } from "./assessCase.ts";
import { SOURCE_KEYS, SOURCES, sourceOf } from "./budget/registry.ts";
import { DRAG, evidenceOf, FAMILY, runOf, TABLE } from "./evidenceForTests.ts";
import { groundOf } from "./ground.ts";
import { ASSESSORS, marginFor, reportChapters } from "./registry.ts";
import { STAGES } from "./results/stage.ts";
import type { Assessed, Reported } from "./stages/part.ts";
import { originText } from "./yardsticks/origin.ts";

const FOREIGN = {
  problemId: null,
  parameters: { velocityMS: 2 },
  fluid: { name: "glycol", temperatureK: 280 },
  stated: { schemeOrder: 2 },
} as unknown as CaseSetup;

function reported(evidence = evidenceOf(), setup = FOREIGN): Reported {
  return {
    evidence,
    assessment: assessCase(evidence),
    setup,
    purpose: "why",
    runs: evidence.runs.map((r) => ({
      id: r.id,
      label: r.label,
      code: r.code,
      origin: r.origin,
      state: r.state,
      cells: r.mesh?.cells,
      spacing: r.mesh?.spacing,
      iterations: 40,
      seconds: null,
      settingsHash: "0123456789abcdef",
      result: r.result ?? null,
    })),
  };
}
const chapter = (key: string, r = reported()) => reportChapters(r).find((c) => c.key === key);
const tableOf = (key: string, r = reported()) =>
  reportChapters(r)
    .flatMap((c) => c.tables)
    .find((t) => t.key === key);

describe("the steps of an assessment", () => {
  const e = evidenceOf();
  test("each reads only what those before it found, and gives what its shape names", () => {
    const ground = groundOf(e);
    const found: Record<string, unknown> = {};
    const guarded = new Proxy(found, {
      get: (so, key) => {
        if (!(key in so)) throw new Error(`${String(key)} is read before it is found`);
        return so[key as string];
      },
    }) as unknown as Assessed;
    for (const { assess, shape } of ASSESSORS) {
      const part = assess(ground, guarded) as Record<string, unknown>;
      for (const [key, type] of Object.entries(shape)) expect([key, type.safeParse(part[key]).success]).toEqual([key, true]);
      Object.assign(found, part);
    }
    const { caseId, ladder, stale, stages, ...parts } = assessCase(e);
    expect(found).toEqual(parts);
    expect([caseId, ladder, stale, stages.length]).toEqual([e.caseId, ["run-64", "run-32", "run-16"], false, 9]);
  });
  test("no result has two shapes, and none is without one", () => {
    const named = ASSESSORS.flatMap((a) => Object.keys(a.shape));
    expect(new Set(named).size).toBe(named.length);
    const own = ["caseId", "ladder", "stale", "stages"];
    expect([...named, ...own].sort()).toEqual(Object.keys(assessCase(e)).sort());
  });
});

describe("chapters of a report", () => {
  test("begin with the rule and follow the work", () =>
    expect(reportChapters(reported()).map((c) => c.key)).toEqual([
      "rule",
      "question",
      "yardsticks",
      "runs",
      "settling",
      "balance",
      "refinement",
      "comparison",
    ]));
  test.each([
    ["a case with three meshes", evidenceOf()],
    ["one without a run", evidenceOf([])],
    [
      "one without a balance or a yardstick",
      evidenceOf([runOf(64, 10, { result: { quantities: { q: 10 }, profiles: [], errorNorms: [] } })], { yardsticks: [] }),
    ],
  ])("%s: every row fills its columns, every key stands once, no sentence is empty or broken", (_name, e) => {
    const chapters = reportChapters(reported(e));
    const keys = chapters.flatMap((c) => c.tables.map((t) => t.key));
    expect(new Set(keys).size).toBe(keys.length);
    for (const c of chapters) {
      for (const s of c.sentences) expect(s).toMatch(/^(?!.*(undefined|NaN|null|\[object))[A-Z0-9].*/);
      for (const t of c.tables) {
        expect(t.rows.length).toBeGreaterThan(0);
        for (const row of t.rows) expect(row.length).toBe(t.columns.length);
      }
    }
  });
  test("figures are the assessment's", () => {
    const r = reported();
    const c = r.assessment.comparison.values.q[0];
    expect(tableOf("comparison")?.rows).toEqual([
      ["drag", "Table", c.simulated, 10, c.difference / c.scale, (c.uVal ?? Number.NaN) / c.scale, 0.02, "N"],
    ]);
    expect(tableOf("refinement")?.rows[0].slice(0, 4)).toEqual(["drag", "N", "monotone", expect.closeTo(2, 6)]);
    expect(tableOf("ladder")?.rows.map((x) => x.at(-2))).toEqual(["yes", "yes", "yes"]);
    expect(tableOf("runs")?.rows[0]).toEqual(["16 × 16", "bench", 256, 1 / 16, 40, null, "done", "0123456789ab"]);
    expect(tableOf("sources")?.rows.map((x) => x[1])).toEqual(["round-off", "iteration", "mesh", "balance", "reference"]);
    expect(chapter("rule")?.sentences[0]).toMatch(/^Error sources of drag at about 95 %, as fractions of 10\.000\sN\.$/);
  });
  test("of a run that came without a record the number of iterations is not known", () => {
    const r = reported();
    expect(tableOf("runs", { ...r, runs: r.runs.map((run) => ({ ...run, iterations: 0 })) })?.rows.map((row) => row[4])).toEqual([null, null, null]);
  });
  test("a yardstick says who made it, how, and the file it came in; its curves how uncertain they are, and which points are not believed", () => {
    const profile = { abscissa: [0, 0.5, 1], value: [1, 9, 3], uncertaintyNote: "each point's own 2 %; as 95 % figures" };
    const traverse: CaseEvidence["yardsticks"][number] = {
      ...TABLE,
      name: "Traverse",
      kind: "measured",
      source: "rig book 7",
      values: [],
      provenance: { who: "E.M.", how: "hot wire", when: "12 March", file: { name: "traverse.csv", hash: "3f2a19c0ffffffff" } },
      profiles: [
        {
          ...profile,
          profileKey: "u-1",
          axes: { name: "speed at 1 m", abscissa: { name: "height", unit: "m" }, value: { name: "speed", unit: "m/s" } },
          changes: ["2 repeated readings were averaged with those at the same place."],
          doubtful: [{ index: 1, reason: "lies off its neighbours" }],
        },
        { ...profile, profileKey: "t-1", doubtful: [{ index: 2, reason: "misprint" }] },
        { ...profile, profileKey: "v-1" },
      ],
    };
    const curve = {
      key: "t-1",
      name: "temperature at 1 m",
      abscissa: { name: "height", unit: "m", values: [0, 1] },
      value: { name: "temperature", unit: "K", values: [280, 281] },
    };
    const run = runOf(64, 10, { result: { ...FAMILY[0].result!, profiles: [curve] } });
    const r = reported(evidenceOf([run], { yardsticks: [TABLE, traverse] }));
    expect(chapter("yardsticks", r)?.sentences).toEqual([
      "Table (published table or curve): s.",
      "Traverse (measured): rig book 7. By E.M.; 12 March; hot wire; file traverse.csv, hash 3f2a19c0.",
    ]);
    expect(tableOf("yardsticks", r)?.rows).toEqual([["Table", "drag", 10, 0.01, "N", "as printed"]]);
    expect(tableOf("yardstick-curves", r)?.rows).toEqual([
      ["Traverse", "speed at 1 m", 3, profile.uncertaintyNote, "2 repeated readings were averaged with those at the same place."],
      ["Traverse", "temperature at 1 m", 3, profile.uncertaintyNote, ""],
      // Of a curve that nothing is known of, its key is its name.
      ["Traverse", "v-1", 3, profile.uncertaintyNote, ""],
    ]);
    expect(tableOf("doubtful-points", r)?.rows).toEqual([
      ["Traverse", "speed at 1 m", 0.5, "m", 9, "m/s", "lies off its neighbours"],
      ["Traverse", "temperature at 1 m", 1, "m", 3, "K", "misprint"],
    ]);
  });
  test("one read off a picture names it by its hash; one of which nothing is known says nothing", () => {
    const axis = {
      at: [
        [0, 0],
        [1, 1],
      ],
      values: [0, 1],
      log: false,
    } as const;
    const figure = { name: "scan.png", hash: "0123456789", calibration: { x: axis, y: axis }, doubt: { reading: 1, calibration: 1 }, places: {} };
    expect(originText({ provenance: {}, figure })).toBe("Read off scan.png, hash 01234567.");
    expect([originText({}), originText({ provenance: {} })]).toEqual(["", ""]);
  });
  test("the set-up as it was typed; what another code did not state says so", () => {
    expect(tableOf("setup")?.rows).toEqual([
      ["Reference velocity", 2, "m/s"],
      // What was not typed is an empty cell.
      ["Reference length", null, "m"],
      ["Density", null, "kg/m^3"],
      ["Dynamic viscosity", null, "Pa s"],
      ["Fluid", "glycol", ""],
      ["Temperature", 280, "K"],
      ["Order of the convective scheme", 2, ""],
      ["Orders its residuals were to fall", "not stated", ""],
      ["Orders residuals are to fall", 6, ""],
    ]);
  });
  test("fluxes per metre on the bench, whole from files, what is carried in columns of its own, what is stored in a row", () => {
    const balance = {
      boundaries: [{ name: "in", mass: -2, momentumX: [-3, 0, 1] as const, scalars: { energy: [-5, 1] as const, dye: [1, 1] as const } }],
      storage: { mass: 0.5, scalars: { energy: 7 } },
    };
    const finest = (origin: "bench" | "brought-in") => runOf(64, 10, { origin, result: { ...FAMILY[0].result!, balance } });
    const table = tableOf("boundaries", reported(evidenceOf([finest("bench")])));
    expect(table?.columns.map((c) => c.unit)).toEqual(["", "kg/s per m", "N per m", "N per m", "W per m", ""]);
    expect(table?.rows).toEqual([
      ["in", -2, -2, null, -4, 2],
      ["stored", 0.5, null, null, 7, null],
    ]);
    expect(tableOf("boundaries", reported(evidenceOf([finest("brought-in")])))?.columns.map((c) => c.unit)).toEqual(["", "kg/s", "N", "N", "W", ""]);
  });
  test("an unmeasured balance says what a person said of it", () => {
    const silent = FAMILY.map((r) => ({ ...r, result: { ...r.result!, balance: undefined } }));
    const said = {
      source: "balance",
      quantityKey: null,
      kind: "not-applicable",
      reason: "closed box",
      by: "AB",
      at: "2026-04-02T00:00:00Z",
    } as const;
    const e = evidenceOf(silent, { settlements: [{ ...said, setupHash: "now" }] });
    expect(chapter("balance", reported(e))?.sentences).toEqual([
      "Not measured: no flows through boundaries are known. Does not apply by AB on 2026-04-02: closed box",
    ]);
    expect(chapter("balance", reported(evidenceOf(silent)))?.sentences).toEqual(["Not measured: no flows through boundaries are known."]);
  });
});

describe("the margin", () => {
  test("its colour is the state of what it speaks of", () => {
    const e = evidenceOf();
    const a = assessCase(e);
    for (const stage of ["settling", "balance", "refinement", "comparison", "verdict"] as const)
      expect(marginFor(stage, e, a, "q")?.tone).toBe("holds");
    const off = evidenceOf(FAMILY.map((r) => ({ ...r, result: { ...r.result!, quantities: { q: (r.result?.quantities.q ?? 0) + 2 } } })));
    expect(marginFor("comparison", off, assessCase(off), "q")?.tone).toBe("fails");
    expect(marginFor("settling", evidenceOf([]), assessCase(evidenceOf([])), "q")?.tone).toBe("none");
  });
  test("of old runs everything but the verdict says that it is stale, and nothing is to be done next", () => {
    const e = evidenceOf(FAMILY, { setupHash: "changed" });
    const a = assessCase(e);
    for (const stage of STAGES) {
      const margin = marginFor(stage, e, a, "q");
      const old = ["settling", "balance", "refinement", "comparison"].includes(stage);
      expect([stage, margin?.notes[0].heading === "Older than the set-up"]).toEqual([stage, old]);
      if (old) expect([margin?.tone, margin?.notes.some((n) => /Next/.test(n.heading))]).toEqual(["stale", false]);
    }
    expect(marginFor("verdict", e, a, "q")?.tone).toBe("stale");
  });
  test("an unknown quantity is taken for the first; without any there is none", () => {
    const e = evidenceOf();
    expect(marginFor("verdict", e, assessCase(e), "?")?.label).toBe("drag");
    expect(marginFor("settling", { ...e, quantities: [] }, assessCase(e), "q")).toBeUndefined();
  });
});

describe("error sources", () => {
  test("each has a key and an effort of its own", () => {
    expect(new Set(SOURCE_KEYS).size).toBe(SOURCES.length);
    expect(new Set(SOURCES.map((s) => s.effort)).size).toBe(SOURCES.length);
    expect(sourceOf("mesh").name).toBe("mesh");
    expect(() => sourceOf("luck")).toThrow('There is no error source "luck".');
  });
  test("the cheapest way to settle one is typing before looking up before running", () =>
    expect([...SOURCES].sort((a, b) => a.effort - b.effort).map((s) => s.key)).toEqual([
      "round-off",
      "domain",
      "inputs",
      "reference",
      "balance",
      "averaging",
      "iteration",
      "time-step",
      "mesh",
    ]));
  test("what one settles names a page and the quantity", () => {
    const refinement = assessCase(evidenceOf()).refinement[0];
    for (const s of SOURCES) expect(STAGES).toContain(s.settle({ quantity: DRAG, broughtIn: false, refinement }).go);
    expect(sourceOf("averaging").settle({ quantity: DRAG, broughtIn: true, refinement }).sentence).toBe("average drag over a longer record");
  });
});
