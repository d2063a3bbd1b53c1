import { describe, expect, test } from "vitest";
import type { RunEvidence } from "../records/run.ts";
import { apartRuns, type Ladder, laddersOf } from "./ladders.ts";

const OWN = { code: "bench", nx: 32, ny: 32, "grading x": "uniform", "grading y": "uniform", shape: "rows", orders: 6, scheme: "central" };
let made = 0;
/** A finished run that differs from the family's finest mesh in what is given. */
function run(change: Readonly<Record<string, string | number>> = {}, more: Partial<RunEvidence> = {}): RunEvidence {
  const settings = { ...OWN, ...change };
  const cells = settings.nx * settings.ny;
  return {
    id: `r${++made}`,
    label: `run ${made}`,
    origin: "bench",
    code: "bench",
    state: "done",
    setupHash: "s",
    questionHash: "q",
    made: settings,
    mesh: { label: `${settings.nx} × ${settings.ny}`, cells, spacing: 1 / Math.sqrt(cells), dimension: 2 },
    result: { quantities: {}, profiles: [], errorNorms: [] },
    finishedAt: "2026-04-01T10:00:00Z",
    ...more,
  };
}
const of = (runs: readonly RunEvidence[], family: readonly RunEvidence[] = [], more: object = {}) =>
  laddersOf(
    { runs, questionHash: "q", ...more },
    family.map((r) => r.id),
  );
const seen = (ladders: readonly Ladder[]) => ladders.map((l) => [l.axis, ...l.runs.map((r) => r.place)]);
const family = [32, 16, 8].map((n) => run({ nx: n, ny: n }));

describe("ladders among runs", () => {
  test("the family itself is none of the others", () => expect(of(family, family)).toEqual([]));
  test.each([
    ["time-step", "Courant number", [0.25, 0.5], ["Courant number 0.25", "Courant number 0.5", "Courant number 1"], { "Courant number": 1 }],
    ["tolerance", "orders", [8, 4], ["8 orders", "6 orders", "4 orders"], {}],
    ["scheme", "scheme", ["upwind", "limited"], ["central", "limited", "upwind"], {}],
    ["flux", "flux", ["linearised"], ["contact", "linearised"], { flux: "contact" }],
    ["limiter", "limiter", ["none"], ["none", "smooth"], { limiter: "smooth" }],
    ["shape", "shape", ["jittered", "triangles"], ["jittered", "rows", "triangles"], {}],
  ] as const)("runs that differ in their %s stand on one, the finest first", (axis, key, values, places, own) => {
    const base = run(own);
    expect(seen(of([base, ...values.map((v) => run({ ...own, [key]: v }))], [base]))).toEqual([[axis, ...places]]);
  });
  test("extents of the domain on meshes much alike, the largest first; a mesh that is much finer as well stands apart", () => {
    const at = (domain: number, spacing: number) =>
      run({ domain, nx: 8 * domain }, { mesh: { label: `${domain}`, cells: 256 * domain, spacing, dimension: 2 } });
    const base = at(20, 0.1);
    const wider = [at(30, 0.102), at(40, 0.099)];
    expect(seen(of([base, ...wider, at(60, 0.05)], [base]))).toEqual([["domain", "extent 40", "extent 30", "extent 20"]]);
  });
  test("cells along one axis alone are a ladder of their own, and each direction is told apart", () => {
    const x = [16, 64].map((nx) => run({ nx }));
    const y = [8, 16].map((ny) => run({ ny }));
    const found = seen(of([...family, ...x, ...y], family)).filter(([axis]) => axis !== "mesh");
    expect(found).toEqual([
      ["mesh-x", "64 along x", "32 along x", "16 along x"],
      ["mesh-y", "32 along y", "16 along y", "8 along y"],
    ]);
  });
  test("meshes of another scheme are a family beside the case's own", () => {
    const upwind = [32, 16, 8].map((n) => run({ nx: n, ny: n, scheme: "upwind" }));
    const found = of([...family, ...upwind], family);
    expect(seen(found.filter((l) => l.axis === "mesh"))).toEqual([["mesh", "32 × 32", "16 × 16", "8 × 8"]]);
    expect(found.find((l) => l.axis === "mesh")?.runs[0].run.id).toBe(upwind[0].id);
    expect(found.filter((l) => l.axis === "scheme")).toHaveLength(3);
  });
  test("of another code's runs stated steps and orders count", () => {
    const theirs = (step: number) => run({}, { made: { code: "Lintel", "time step": step } });
    expect(seen(of([theirs(0.02), theirs(0.01), theirs(0.04)]))).toEqual([["time-step", "0.01 s", "0.02 s", "0.04 s"]]);
    const order = (n: number) => run({}, { made: { code: "Lintel", "scheme order": n } });
    expect(seen(of([order(2), order(1)]))).toEqual([["scheme", "order 1", "order 2"]]);
  });
  test("of runs at one place the newest counts; runs of another question, without a result or left out do not", () => {
    const old = run({ orders: 8 });
    const now = run({ orders: 8 }, { finishedAt: "2026-04-02T10:00:00Z" });
    const [ladder] = of([family[0], old, now], family);
    expect(ladder.runs.map((r) => r.run.id)).toEqual([now.id, family[0].id]);
    for (const other of [{ questionHash: "p" }, { questionHash: undefined }, { result: undefined }, { state: "failed" as const }])
      expect(of([family[0], run({ orders: 8 }, other)], family)).toEqual([]);
    expect(of([family[0], now], family, { leftOut: [{ runId: now.id, reason: "", by: "", at: "" }] })).toEqual([]);
  });
  test("a run that says nothing of its mesh shares it with no other", () => {
    expect(of([run({}, { mesh: undefined }), run({ orders: 8 }, { mesh: undefined })])).toEqual([]);
  });
});

describe("runs that stand on no ladder", () => {
  test("two things that differ at once are named", () => {
    const both = run({ nx: 64, ny: 64, scheme: "upwind", orders: 9 });
    const all = [...family, both];
    expect(
      apartRuns(
        { runs: all, questionHash: "q" },
        family.map((r) => r.id),
        of(all, family),
      ),
    ).toEqual([{ runId: both.id, label: both.label, differs: ["nx", "ny", "orders", "scheme"] }]);
  });
  test("none are apart while there is no family, nor those that stand somewhere", () => {
    const one = run({ orders: 8 });
    expect(apartRuns({ runs: [one], questionHash: "q" }, [], [])).toEqual([]);
    const all = [...family, one];
    expect(
      apartRuns(
        { runs: all, questionHash: "q" },
        family.map((r) => r.id),
        of(all, family),
      ),
    ).toEqual([]);
  });
});
