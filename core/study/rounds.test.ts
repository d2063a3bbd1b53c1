import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { randomFrom } from "../numeric/random.ts";
import type { Tried } from "../records/build.ts";
import { codesInRounds, type RoundQuantity, roundSentence, roundsOf } from "./rounds.ts";

const tried = (version: string, value: number, change: Partial<Tried> = {}): Tried => ({
  code: "Lintel",
  version,
  place: "40 × 40",
  runId: `${version} ${value}`,
  quantityKey: "q",
  value,
  noise: 0.001,
  at: `2026-04-${version.padStart(2, "0")}T08:00:00Z`,
  ...change,
});
const quantity = (list: readonly Tried[], change: Partial<RoundQuantity> = {}): RoundQuantity => ({
  caseId: "c",
  title: "Box",
  quantityKey: "q",
  name: "drag",
  unit: "N",
  scale: 10,
  tried: list,
  ...change,
});
const line = (list: readonly Tried[], change: Partial<RoundQuantity> = {}) => roundsOf("Lintel", [quantity(list, change)]).lines[0];

describe("rounds of a benchmark", () => {
  test("a planted change of 0.3 % is found at its version, with its size and weight; before and after it nothing moves", () => {
    const next = randomFrom(3);
    const values = Array.from({ length: 12 }, (_, k) => tried(String(k + 1), 10 * (k >= 7 ? 1.003 : 1) + 0.0005 * (2 * next() - 1)));
    const l = line(values, { uncertainty: 0.01 });
    expect(l.cells.filter((c) => c.moved).map((c) => c.version)).toEqual(["8"]);
    expect(l.broke).toMatchObject({ good: "7", bad: "8", between: [], sentence: expect.stringContaining("with 8") });
    const cell = l.cells[7];
    expect(cell.change).toBeCloseTo(0.003, 4);
    expect(cell.weight).toBeCloseTo(0.3, 2);
  });
  test("silence on noise: values within what their records leave open move nowhere, over 300 seeded rounds", () => {
    const next = randomFrom(11);
    for (let k = 0; k < 300; k++) {
      const values = Array.from({ length: 8 }, (_, v) => tried(String(v + 1), 10 + 0.0007 * (2 * next() - 1)));
      const l = line(values);
      expect(l.cells.some((c) => c.moved)).toBe(false);
      expect(l.broke).toBeUndefined();
    }
  });
  test("a value that comes back is no lasting break", () => {
    const l = line([tried("1", 10), tried("2", 10.1), tried("3", 10)]);
    expect(l.cells.map((c) => c.moved)).toEqual([undefined, true, true]);
    expect(l.broke).toBeUndefined();
  });
  test("versions that were not run between good and bad are halved", () => {
    const others = quantity(
      ["1", "2", "3", "4", "5", "6"].map((v) => tried(v, 1)),
      { caseId: "other" },
    );
    const rounds = roundsOf("Lintel", [quantity([tried("1", 10), tried("6", 10.2)]), others]);
    expect(rounds.lines[0].broke).toMatchObject({ good: "1", bad: "6", between: ["2", "3", "4", "5"], next: "3" });
    // Bisection to the end finds the version whatever it is, in as many runs as the logarithm says.
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 64 }), (bad) => {
        const all = Array.from({ length: 64 }, (_, k) => String(k + 1));
        const at = (v: string) => tried(v, Number(v) >= bad ? 10.2 : 10, { at: `2026-04-01T08:00:00.${v.padStart(3, "0")}Z` });
        const marks = quantity(
          all.map((v) => ({ ...at(v), value: 1 })),
          { caseId: "other" },
        );
        const run = new Set(["1", "64"]);
        for (let k = 0; k < 7; k++) {
          const broke = roundsOf("Lintel", [quantity([...run].map(at)), marks]).lines[0].broke;
          if (!broke?.next) break;
          run.add(broke.next);
        }
        const found = roundsOf("Lintel", [quantity([...run].map(at)), marks]).lines[0].broke;
        expect([found?.bad, found?.between]).toEqual([String(bad), []]);
      }),
    );
  });
  test("only runs of one mesh and settings are held against each other; of two the newest; other codes are others", () => {
    const l = line([
      tried("1", 10),
      tried("1", 10.5, { at: "2026-04-01T09:00:00Z" }),
      tried("2", 10.5),
      tried("2", 11, { place: "80 × 80" }),
      tried("3", 99, { code: "Purlin" }),
    ]);
    expect(l.cells.map((c) => [c.version, c.value])).toEqual([
      ["1", 10.5],
      ["2", 10.5],
    ]);
    expect(l.cells[1].moved).toBe(false);
  });
  test("records without noise still have rounding; the sentence counts what moved with the last version", () => {
    const exact = { noise: 0 };
    expect(line([tried("1", 10, exact), tried("2", 10 * (1 + 1e-15), exact)]).cells[1].moved).toBe(false);
    expect(line([tried("1", 10, exact), tried("2", 10 * (1 + 1e-9), exact)]).cells[1].moved).toBe(true);
    const rounds = roundsOf("Lintel", [quantity([tried("1", 10), tried("2", 10.1)]), quantity([tried("1", 5), tried("2", 5)], { caseId: "d" })]);
    expect(roundSentence(rounds)).toContain("1 of 2 figures moved beyond noise");
    expect(roundSentence(roundsOf("Lintel", [quantity([tried("1", 10)])]))).toContain("nothing can have moved yet");
    expect(codesInRounds([quantity([tried("1", 1), tried("2", 1), tried("1", 1, { code: "Purlin" })])])).toEqual([
      { code: "Lintel", versions: 2 },
      { code: "Purlin", versions: 1 },
    ]);
  });
});
