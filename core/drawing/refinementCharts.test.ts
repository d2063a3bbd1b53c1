import { describe, expect, test } from "vitest";
import { assessCase } from "../assessment/assessCase.ts";
import { DRAG, evidenceOf, runOf } from "../assessment/evidenceForTests.ts";
import { curveOverMeshes, errorAgainstCost, localOrders } from "./caseCharts.ts";
import { valuePanels } from "./valuePanels.ts";

const points = Array.from({ length: 11 }, (_, i) => i / 10);
const runs = [16, 32, 64].map((n) => {
  const value = 10 + 64 / n ** 2;
  const profile = {
    key: "mid",
    name: "mid-plane <a>",
    abscissa: { name: "y", unit: "m", values: points },
    value: { name: "u", unit: "m/s", values: points.map((x) => x + 30 / n ** 2) },
  };
  return { ...runOf(n, value), result: { quantities: { q: value }, profiles: [profile], errorNorms: [] } };
});
const { refinement, curves } = assessCase(evidenceOf(runs));
const [study] = refinement;
const count = (svg: string | undefined, sign: string) => (svg ?? "").split(sign).length - 1;

describe("every quantity in a panel of its own", () => {
  test("a dot a mesh with what it is off, the limit in words, names defused", () => {
    const svg = valuePanels(refinement, [{ ...DRAG, name: "drag <b>" }], { q: 10 });
    expect(count(svg, "<circle")).toBe(3);
    expect(svg).toContain("drag &#60;b&#62;");
    expect(svg).toContain("limit 2.0");
    // The coarsest mesh is 64 / 16^2 - 64 / 64^2 off, over 10, four spacings away.
    expect(svg).toContain("h/h1 4.00: 2.3");
    expect(svg).not.toContain("NaN");
  });
  test("four stand side by side, the fifth below; a rung that was left out is hollow; two values are the fewest", () => {
    const five = ["a", "b", "c", "d", "e"].map((key) => ({ ...study, key }));
    const quantities = five.map((r) => ({ ...DRAG, key: r.key }));
    const scales = Object.fromEntries(five.map((r) => [r.key, 10]));
    const svg = valuePanels(five, quantities, scales);
    expect(svg).toContain("translate(564 0)");
    expect(svg).toContain("translate(0 112)");
    const [fine, medium, coarse] = study.rungs;
    const off = valuePanels([{ ...study, rungs: [fine, medium, { ...coarse, used: false }] }], [DRAG], { q: 10 });
    expect(count(off, 'fill="#fff"')).toBe(1);
    expect(valuePanels([{ ...study, rungs: [fine] }], [DRAG], { q: 10 })).toBeUndefined();
    expect(valuePanels(refinement, [DRAG], {})).toBeUndefined();
  });
});

describe("curves and costs", () => {
  test("every mesh's curve and both edges of the band are drawn; a bar for each bin of local orders", () => {
    const svg = curveOverMeshes(curves[0]);
    expect(count(svg, "<path") >= 5).toBe(true);
    expect(svg).toContain("mid-plane &#60;a&#62;");
    expect(svg).not.toContain("NaN");
    const rects = (s: string) => count(s, "<rect");
    const empty = localOrders({ ...curves[0], orders: [] });
    expect(rects(localOrders(curves[0])) - rects(empty)).toBe(curves[0].orders.length);
  });
  test("error against cost needs a limit and two runs with times", () => {
    expect(count(errorAgainstCost(study, DRAG, 10), "<circle")).toBe(3);
    expect(errorAgainstCost({ ...study, rungs: study.rungs.map((g) => ({ ...g, seconds: undefined })) }, DRAG, 10)).toBeUndefined();
    expect(errorAgainstCost({ ...study, result: { kind: "diverging", uncertainty: 1, guard: 1 } }, DRAG, 10)).toBeUndefined();
  });
});
