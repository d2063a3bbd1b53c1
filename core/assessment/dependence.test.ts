import { describe, expect, test } from "vitest";
import { type DependenceInput, dependenceOf } from "./dependence.ts";

const input = (change: Partial<DependenceInput> = {}): DependenceInput => ({
  runs: [
    { id: "a", label: "fine", current: true, files: ["fine.csv"] },
    { id: "b", label: "coarse", current: true, files: ["fine.csv"] },
  ],
  yardsticks: [{ key: "y", name: "Table" }],
  statements: [{ label: "domain, H. M.", quantityKey: "p", current: true }],
  verdicts: [
    { quantityKey: "q", name: "drag", state: "holds", yardsticks: ["y"] },
    { quantityKey: "p", name: "drop", state: "holds", yardsticks: [] },
  ],
  reports: [
    { number: 2, current: true },
    { number: 1, current: false },
  ],
  ...change,
});
const fresh = (d: ReturnType<typeof dependenceOf>) => Object.fromEntries(d.nodes.map((n) => [n.id, n.fresh]));

describe("what rests on what", () => {
  test("from files over runs and yardsticks to verdicts and the newest report; a file of two runs is there once", () => {
    const d = dependenceOf(input());
    expect(d.nodes.filter((n) => n.id.startsWith("file"))).toHaveLength(1);
    expect(d.edges).toEqual(
      expect.arrayContaining([
        ["setup", "run a"],
        ["file fine.csv", "run b"],
        ["run a", "verdict q"],
        ["yardstick y", "verdict q"],
        ["said 0", "verdict p"],
        ["verdict q", "report 2"],
      ]),
    );
    expect(d.edges.some(([from, to]) => from === "said 0" && to === "verdict q")).toBe(false);
    expect(d.edges.some(([, to]) => to === "report 1")).toBe(false);
    const ids = new Set(d.nodes.map((n) => n.id));
    expect(d.edges.every(([a, b]) => ids.has(a) && ids.has(b))).toBe(true);
  });
  test("one stale run makes every verdict stale, a stale statement those it speaks of", () => {
    const old = dependenceOf(input({ runs: [{ id: "a", label: "fine", current: false, files: [] }] }));
    expect(fresh(old)).toMatchObject({ "run a": false, "verdict q": false, "verdict p": false, "yardstick y": true });
    const said = dependenceOf(input({ statements: [{ label: "domain", quantityKey: "p", current: false }] }));
    expect(fresh(said)).toMatchObject({ "verdict q": true, "verdict p": false, "report 2": true, "report 1": false });
    const all = dependenceOf(input({ statements: [{ label: "domain", quantityKey: null, current: false }] }));
    expect(fresh(all)).toMatchObject({ "verdict q": false, "verdict p": false });
  });
});
