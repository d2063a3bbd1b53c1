import { describe, expect, test } from "vitest";
import { byQuantity, bySource, type MatrixLine } from "./matrix";

const line = (caseId: string, name: string, sources: Record<string, number | undefined> = {}): MatrixLine =>
  ({
    caseId,
    title: caseId.toUpperCase(),
    key: name,
    name,
    rule: { sources: Object.entries(sources).map(([key, relative]) => ({ key, name: key, group: "numerical", relative })) },
  }) as unknown as MatrixLine;
const LINES = [
  line("a", "drag", { mesh: 0.01, domain: undefined }),
  line("a", "lift", { mesh: 0.5 }),
  line("b", "heat", { mesh: 0.02, "time-step": 0.1 }),
  line("b", "drag", { mesh: 0.03 }),
];

describe("the matrix", () => {
  test("quantities: shared ones first, a case has only its own", () => {
    const { columns, rows } = byQuantity(LINES);
    expect(columns).toEqual(["drag", "lift", "heat"]);
    expect(rows.map((r) => [r.title, Object.keys(r.cells)])).toEqual([
      ["A", ["drag", "lift"]],
      ["B", ["heat", "drag"]],
    ]);
  });
  test("sources: of the leading quantity, or of the one named; a source a case has not is no cell, an open one is", () => {
    const leading = bySource(LINES);
    expect(leading.columns.map((c) => c.key)).toEqual(["mesh", "domain", "time-step"]);
    expect(leading.rows.map((r) => [r.quantity, r.cells.mesh?.relative, "domain" in r.cells, r.cells.domain?.relative])).toEqual([
      ["drag", 0.01, true, undefined],
      ["heat", 0.02, false, undefined],
    ]);
    expect(bySource(LINES, "drag").rows.map((r) => r.cells.mesh?.relative)).toEqual([0.01, 0.03]);
    expect(bySource(LINES, "torque").rows).toEqual([]);
  });
});
