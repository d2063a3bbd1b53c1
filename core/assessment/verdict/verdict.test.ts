import { describe, expect, test } from "vitest";
import type { ErrorSource } from "../../method/budget/errorBudget.ts";
import type { SourceKey } from "../../records/settlement.ts";
import type { Remark, State } from "../../remarks/remark.ts";
import { SOURCE_KEYS } from "../budget/registry.ts";
import { DRAG } from "../evidenceForTests.ts";
import type { Rung } from "../results/refinement.ts";
import { type JudgeInput, judge, reasonText } from "./verdict.ts";

const source = (key: SourceKey, relative?: number): ErrorSource => ({
  key,
  name: key,
  group: "numerical",
  stage: "refinement",
  note: `about ${key}`,
  ...(relative === undefined ? {} : { relative }),
});
const rung = (value?: number): Rung => ({
  runId: "r",
  label: "",
  cells: 1,
  spacing: 1,
  dimension: 2,
  iterationError: 0,
  used: true,
  ...(value === undefined ? {} : { value }),
});

interface Given {
  readonly sources?: readonly ErrorSource[];
  readonly stages?: Partial<Record<"setup" | "settling" | "balance" | "refinement", { state: State; remarks?: readonly Remark[] }>>;
  readonly comparison?: JudgeInput["comparison"];
  readonly broughtIn?: boolean;
  readonly rungs?: readonly Rung[];
  readonly value?: number | null;
}

function verdict(g: Given) {
  const part = <S extends "question" | "settling" | "balance" | "refinement">(stage: S, key: keyof NonNullable<Given["stages"]>) => ({
    stage,
    state: g.stages?.[key]?.state ?? ("holds" as State),
    remarks: g.stages?.[key]?.remarks ?? [],
  });
  return judge({
    quantity: DRAG,
    stale: false,
    broughtIn: g.broughtIn ?? false,
    parts: [part("question", "setup"), part("settling", "settling"), part("balance", "balance"), part("refinement", "refinement")],
    refinement: { key: "q", rungs: g.rungs ?? [], limit: 0.02, remarks: [], state: "holds", headline: "" },
    comparison: g.comparison ?? { state: "holds", reasons: [] },
    rule: {
      quantityKey: "q",
      scale: 1,
      ...(g.value === null ? {} : { value: g.value ?? 1 }),
      missing: [],
      sources: g.sources ?? [source("mesh", 0.01)],
    },
  });
}
const stop = (rule: string, sentence = `${rule} stops.`): Remark => ({ rule, severity: "stop", sentence });
const doubt = (rule: string, sentence = `${rule} doubts.`): Remark => ({ rule, severity: "doubt", sentence });

describe("what settles each open source, and where", () => {
  const pages: Readonly<Record<SourceKey, string>> = {
    "round-off": "verdict",
    iteration: "runs",
    averaging: "settling",
    mesh: "meshes",
    "time-step": "runs",
    balance: "runs",
    domain: "refinement",
    inputs: "question",
    reference: "yardsticks",
  };
  test.each(SOURCE_KEYS)("%s", (key) => {
    const v = verdict({ sources: [source(key)] });
    expect(v.word).toBe("incomplete");
    expect(v.settles).toHaveLength(1);
    expect(v.settles[0]).toMatchObject({ source: key, go: pages[key] });
    const what = key === "inputs" ? "uncertainty of the inputs" : `${key} error`;
    expect(v.reasons).toEqual([{ sentence: `the ${what} is open: about ${key}`, go: "refinement" }]);
    expect(v.next).toMatchObject({ sentence: v.settles[0].sentence, go: pages[key] });
    const computes = ["meshes", "refinement", "runs"].includes(pages[key]);
    expect(v.next?.gain?.sentence).toBe(`The verdict can be given then.${computes ? "" : " It needs no run."}`);
  });
  test.each([
    [0, false, "run 3 more meshes of the family", "meshes"],
    [1, false, "run 2 more meshes of the family", "meshes"],
    [2, false, "run 1 more mesh of the family", "meshes"],
    [3, false, "run 1 more mesh of the family", "meshes"],
    [2, true, "bring in 1 more mesh, or estimate the mesh error", "runs"],
    [1, true, "bring in 2 more meshes, or estimate the mesh error", "runs"],
  ] as const)("with %d meshes, brought in %s: %s", (have, broughtIn, sentence, go) => {
    const rungs = [...Array.from({ length: have }, () => rung(1)), rung()];
    expect(verdict({ sources: [source("mesh")], rungs, broughtIn }).settles[0]).toMatchObject({ sentence, go });
  });
  test("the cheapest of several is the next step: typing before looking up before running", () => {
    const order: readonly SourceKey[] = ["round-off", "domain", "inputs", "reference", "balance", "averaging", "iteration", "time-step", "mesh"];
    for (const [i, first] of order.entries()) {
      const v = verdict({ sources: [...order.slice(i)].reverse().map((k) => source(k)) });
      expect(v.next?.sentence).toBe(v.settles.find((s) => s.source === first)?.sentence);
    }
  });
});

describe("reasons", () => {
  test("one for each rule of a stage, the last one said, without its full stop and with its page", () => {
    const v = verdict({
      stages: { balance: { state: "fails", remarks: [stop("a", "first."), stop("a", "second."), stop("b", "third."), doubt("c")] } },
    });
    expect(v.word).toBe("fails");
    expect(v.reasons).toEqual([
      { sentence: "second", go: "balance", rule: "a" },
      { sentence: "third", go: "balance", rule: "b" },
    ]);
    expect(v.next).toEqual({ sentence: "look at this first: second", go: "balance" });
  });
  test("an answered remark is no reason; a state without one still names its stage", () => {
    const answered = { ...stop("a"), answered: { reason: "r", at: "t" } };
    const v = verdict({ stages: { settling: { state: "fails", remarks: [answered] } } });
    expect(v.reasons).toEqual([{ sentence: "settling fails", go: "settling" }]);
    const doubtful = verdict({ stages: { refinement: { state: "remark" } } });
    expect(doubtful.reasons).toEqual([{ sentence: "refinement holds with a remark", go: "refinement" }]);
  });
  test("fails first, then what is open, then what cannot be judged, then remarks", () => {
    const v = verdict({
      sources: [source("mesh"), { ...source("domain", 0.1), settled: { kind: "estimated", by: "H. M.", reason: "r" } }],
      stages: { setup: { state: "remark", remarks: [doubt("d")] }, balance: { state: "fails", remarks: [stop("s")] } },
      comparison: { state: "remark", reasons: ["near its limit"] },
    });
    expect(v.reasons.map((r) => r.sentence)).toEqual([
      "s stops",
      "the mesh error is open: about mesh",
      "d doubts",
      "near its limit",
      "domain is an estimate of H. M., not measured",
    ]);
    expect(v.reasons[3]).toMatchObject({ go: "comparison", rule: "yardstick-policy" });
  });
  test("a comparison that cannot be made is a reason of its own only while nothing else is open", () => {
    const none = { state: "none" as const, reasons: ["no yardstick"] };
    expect(verdict({ comparison: none }).reasons.map((r) => r.sentence)).toEqual(["no yardstick"]);
    expect(verdict({ comparison: none, sources: [source("mesh")] }).reasons.map((r) => r.sentence)).toEqual(["the mesh error is open: about mesh"]);
  });
  test("bounded and not applicable sources are no remarks", () => {
    for (const kind of ["bounded", "not-applicable"] as const)
      expect(verdict({ sources: [{ ...source("domain", 0), settled: { kind, by: "H. M.", reason: "r" } }] }).word).toBe("holds");
  });
  test("as they stand in a list", () => expect(reasonText({ sentence: "the mesh is coarse", go: "meshes" })).toBe("The mesh is coarse."));
});

describe("the next step", () => {
  test("without a value: runs first, whatever else is wrong", () => {
    expect(verdict({ value: null, sources: [source("mesh")] }).next).toEqual({ sentence: "run a family of meshes", go: "meshes" });
    expect(verdict({ value: null, broughtIn: true, stages: { setup: { state: "fails" } } }).next).toEqual({ sentence: "bring in a run", go: "runs" });
  });
  test("with nothing to compare with: a yardstick", () =>
    expect(verdict({ comparison: { state: "none", reasons: ["x"] } }).next).toEqual({
      sentence: "add a yardstick that holds here",
      go: "yardsticks",
    }));
  test("near the limit: make the largest source smaller", () =>
    expect(
      verdict({
        comparison: { state: "remark", reasons: ["x"] },
        sources: [source("round-off", 1e-9), source("mesh", 0.013), source("domain", 0.002)],
      }).next,
    ).toEqual({ sentence: "make mesh smaller, 1.3\u00a0% now: it is the largest part of the uncertainty", go: "refinement" }));
  test("else the first remark; where all holds there is none", () => {
    expect(verdict({ stages: { settling: { state: "remark", remarks: [doubt("d")] } } }).next).toEqual({
      sentence: "see to this: d doubts",
      go: "settling",
    });
    expect(verdict({}).next).toBeUndefined();
  });
  test("what was compared is what the verdict says", () => {
    expect(verdict({}).sentence).toBe("Nothing has been compared yet.");
    const first = { sentence: "Difference within the noise." } as NonNullable<JudgeInput["comparison"]["first"]>;
    expect(verdict({ comparison: { state: "holds", reasons: [], first } }).sentence).toBe("Difference within the noise.");
  });
});
