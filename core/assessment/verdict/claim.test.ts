import { describe, expect, test } from "vitest";
import type { ErrorBudget, ErrorSource } from "../../method/budget/errorBudget.ts";
import { compareValue } from "../../method/comparison/compareValue.ts";
import { DECISION_RULES, type DecisionRule } from "../../records/programme.ts";
import { againstLimit } from "../comparison/comparing.ts";
import { DRAG } from "../evidenceForTests.ts";
import type { QuantityComparison } from "../results/comparison.ts";
import { type ClaimInput, claimOf } from "./claim.ts";

const source = (key: string, relative: number | undefined, change: Partial<ErrorSource> = {}): ErrorSource => ({
  key,
  name: key,
  group: "numerical",
  stage: "refinement",
  note: "",
  ...(relative === undefined ? {} : { relative }),
  ...change,
});
const BY_HAND = { settled: { kind: "bounded", by: "H. M.", reason: "walls all round" } } as const;

interface Given {
  readonly difference?: number;
  readonly uReference?: number;
  readonly open?: boolean;
  readonly stale?: boolean;
  readonly byHand?: boolean;
  readonly decision?: DecisionRule;
  readonly decides?: boolean;
  readonly yardstick?: boolean;
  readonly openReference?: boolean;
}

/** A drag of 10 N, numerical uncertainty 1 % at 95 %, against a yardstick with a limit of 2 %. */
function given(g: Given = {}): ClaimInput {
  const rule: ErrorBudget = {
    quantityKey: "q",
    scale: 10,
    value: 10 + 10 * (g.difference ?? 0),
    missing: [],
    sources: [source("mesh", 0.01), source("domain", g.open ? undefined : 0, g.byHand ? BY_HAND : {})],
  };
  const c = compareValue({
    simulated: rule.value ?? 0,
    reference: 10,
    scale: 10,
    uNum: 0.05,
    uInput: 0,
    uReference: g.uReference ?? 0,
    open: [...(g.open ? ["domain"] : []), ...(g.openReference ? ["the uncertainty of the yardstick"] : [])],
  });
  const first: QuantityComparison = {
    ...c,
    yardstick: "Table",
    yardstickKey: "y",
    kind: "table",
    inside: g.decides ?? true,
    decides: g.decides ?? true,
    limit: 0.02,
    ...(g.decision ? { decision: g.decision } : {}),
    state: againstLimit(c, 0.02, g.decision),
  };
  return {
    quantity: DRAG,
    rule,
    ...(g.yardstick === false ? {} : { first }),
    ladder: [
      { label: "64 × 64", code: "Lintel" },
      { label: "32 × 32", code: "Lintel" },
    ],
    similarity: [
      { key: "reynolds", name: "Reynolds number", value: 10_000, unit: "1", formula: "" },
      { key: "mach", name: "Mach number", value: 0.006, unit: "1", formula: "" },
    ],
    compressible: false,
    fluid: "air",
    defined: false,
    stale: g.stale ?? false,
  };
}

describe("what may be claimed", () => {
  test("one exact sentence: conditions, value, interval of the model error, limit, foundation, what is not covered", () => {
    expect(
      claimOf(given({ difference: 0.004 }))
        .sentence.replaceAll("\u00a0", " ")
        .replaceAll("\u202f", " "),
    ).toBe(
      "At Reynolds number 10000 and in air, drag is 10.040 N with a numerical uncertainty of 1.0 %, and its error against Table lies between −0.60 % and +1.4 % (95 %, k = 2), which keeps the limit of 2.0 % with its uncertainty both ways. It rests on 2 meshes of Lintel (finest 64 × 64) and Table. It does not cover any other Reynolds number and what the uncertainty of the conditions makes of it: they are taken as typed.",
    );
  });
  test("conditions that are exact by definition leave nothing uncovered; the bench has its article", () => {
    const c = claimOf({ ...given(), defined: true, ladder: [{ label: "8 × 8", code: "bench" }] });
    expect(c.notCovered).toEqual(["any other Reynolds number"]);
    expect(c.restsOn[0]).toBe("one mesh of the bench (finest 8 × 8)");
  });
  test("a Mach number nothing depends on is no condition; in compressible flow it is one", () => {
    expect(claimOf(given()).conditions).toEqual(["Reynolds number 10000", "in air"]);
    expect(claimOf({ ...given(), compressible: true }).conditions[1]).toContain("Mach number");
  });
  test("a stage that fails, earlier runs, no value: nothing, with the reason", () => {
    expect(claimOf({ ...given(), broken: "the record diverges" })).toMatchObject({
      kind: "nothing",
      sentence: "Nothing is claimed of drag: the record diverges.",
    });
    const { value: _value, ...unmade } = given().rule;
    expect(claimOf({ ...given(), rule: unmade }).sentence).toContain("no run has delivered it");
    expect(claimOf(given({ stale: true })).low).toBeUndefined();
  });
  test("without a yardstick that decides the value alone has an interval, and it is said that its model has none", () => {
    for (const g of [{ yardstick: false }, { decides: false }]) {
      const c = claimOf(given(g));
      expect(c).toMatchObject({ kind: "numerical", low: expect.closeTo(9.9, 12), high: expect.closeTo(10.1, 12) });
      expect(c.sentence).toContain("nothing is claimed of its error, since no yardstick decides here");
    }
    expect(claimOf(given({ openReference: true })).sentence).toContain("since the uncertainty of the yardstick is open");
  });
  test("what a person settled is named with the initials, and the sentence says reasons instead of measurements", () => {
    const c = claimOf(given({ byHand: true }));
    expect(c.byArgument).toEqual(["domain (bounded by argument, H. M.)"]);
    expect(c.sentence).toContain("and on reasons instead of measurements for domain");
    expect(claimOf(given()).sentence).not.toContain("reasons instead");
    const i = given();
    const measured = { settled: { kind: "measured", by: "K. B.", reason: "three domains", link: "TR 12" } } as const;
    const elsewhere = { ...i, rule: { ...i.rule, sources: [i.rule.sources[0], source("domain", 0.001, measured)] } };
    expect(claimOf(elsewhere).byArgument).toEqual([]);
  });
});

describe("truth table of claims: limit, difference, uncertainty, missing, stale, settled by argument", () => {
  const flags = [false, true];
  const differences = [-0.05, -0.025, -0.015, 0, 0.0099, 0.0101, 0.0299, 0.0301];
  test("every combination follows the order and the interval, and never says two things", () => {
    let count = 0;
    for (const difference of differences)
      for (const uReference of [0, 0.2])
        for (const open of flags)
          for (const stale of flags)
            for (const byHand of flags)
              for (const decision of DECISION_RULES) {
                const i = given({ difference, uReference, open, stale, byHand: byHand && !open, decision });
                const c = claimOf(i);
                const band = 2 * Math.hypot(0.005, uReference / 10);
                const kind = stale || open ? "nothing" : "model-error";
                expect(c.kind, JSON.stringify({ difference, open, stale })).toBe(kind);
                expect(c.sentence.startsWith("Nothing is claimed")).toBe(kind === "nothing");
                if (kind === "model-error") {
                  expect([c.low, c.high]).toEqual([expect.closeTo(difference - band, 12), expect.closeTo(difference + band, 12)]);
                  const size = Math.abs(difference);
                  const holds = decision === "simple" ? size <= 0.02 : size + band <= 0.02;
                  const fails = decision === "both-ways" ? size - band > 0.02 : !holds;
                  const word = holds ? "which keeps the limit" : fails ? "which breaks the limit" : "which may keep or break the limit";
                  expect(c.sentence, `${difference} ${band} ${decision}`).toContain(word);
                  expect(c.confidence).toBe(0.95);
                } else expect([c.low, c.high, c.confidence]).toEqual([undefined, undefined, undefined]);
                expect(c.byArgument.length).toBe(byHand && !open ? 1 : 0);
                expect(c.notCovered.some((x) => x.startsWith("domain"))).toBe(open);
                count++;
              }
    expect(count).toBe(differences.length * 2 * 8 * 3);
  });
});
