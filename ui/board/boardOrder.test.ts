import { describe, expect, test } from "vitest";
import type { BoardRow } from "@/core/assessment/results/boardRow";
import { OPEN_SIEVE, sifted, tagsOf } from "./boardOrder";

const row = (title: string, change: Partial<BoardRow> = {}) =>
  ({ title, leading: "drag", tags: [], verdicts: [], openFindings: 0, ...change }) as unknown as BoardRow;
const ROWS = [
  row("Louvre", { tags: ["wind box", "Lintel"], verdicts: ["remark", "fails"], openFindings: 1, rule: { difference: -0.04 } as never }),
  row("Box", { verdicts: ["holds"], rule: { difference: 0.002 } as never }),
  row("Curtain", { tags: ["Lintel"], verdicts: ["none"], leading: "sealing efficiency", openFindings: 3 }),
];
const names = (change: object) => sifted(ROWS, { ...OPEN_SIEVE, ...change }).map((r) => r.title);

describe("the board's rows", () => {
  test("are found by every word of name, quantity and tags, by state of any quantity, by tag", () => {
    expect(names({ search: "LINTEL wind" })).toEqual(["Louvre"]);
    expect(names({ search: "sealing" })).toEqual(["Curtain"]);
    expect(names({ search: "sealing wind" })).toEqual([]);
    expect(names({ state: "fails" })).toEqual(["Louvre"]);
    expect(names({ tag: "Lintel" })).toEqual(["Louvre", "Curtain"]);
    expect(names({ tag: "Lintel", state: "none" })).toEqual(["Curtain"]);
  });
  test("stand in the order asked for; what has no difference comes last, equals as they were made", () => {
    expect(names({})).toEqual(["Louvre", "Box", "Curtain"]);
    expect(names({ order: "by name" })).toEqual(["Box", "Curtain", "Louvre"]);
    expect(names({ order: "worst first" })).toEqual(["Louvre", "Curtain", "Box"]);
    expect(names({ order: "largest difference first" })).toEqual(["Louvre", "Box", "Curtain"]);
    expect(names({ order: "most findings first" })).toEqual(["Curtain", "Louvre", "Box"]);
    expect(sifted([row("a"), row("b")], { ...OPEN_SIEVE, order: "worst first" }).map((r) => r.title)).toEqual(["a", "b"]);
  });
  test("sorting leaves the given rows as they were", () => {
    const before = ROWS.map((r) => r.title);
    names({ order: "by name" });
    expect(ROWS.map((r) => r.title)).toEqual(before);
  });
  test("tags: the most used first, then by name", () =>
    expect(tagsOf([...ROWS, row("x", { tags: ["attic"] })])).toEqual(["Lintel", "attic", "wind box"]));
});
