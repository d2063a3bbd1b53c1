import { expect, test } from "vitest";
import type { InputBudget } from "../method/propagation/inputs.ts";
import { tornado } from "./tornado.ts";

const share = (label: string, value: number, relative: number) => ({ key: label, label, sensitivity: { value, by: "typed" as const }, relative });
/** Bars as [x, width, filled], in the order they are drawn. */
const bars = (svg: string) =>
  [...svg.matchAll(/<rect x="([\d.]+)" y="[\d.]+" width="([\d.]+)" height="\d+" fill="(none|#\w+)"/g)].map(
    (m) => [Number(m[1]), Number(m[2]), m[3] !== "none"] as const,
  );

test("the largest input stands on top, the others as long as they weigh, filled to the side they push", () => {
  const budget: InputBudget = { shares: [share("<small>", 0.5, 0.01), share("large", -2, 0.04)], relative: 0.0412 };
  const svg = tornado(budget, "drag") as string;
  expect(svg.indexOf("large<")).toBeLessThan(svg.indexOf("small"));
  expect(svg).not.toContain("<small>");
  const [largeDown, largeUp, smallDown, smallUp] = bars(svg);
  // Filled is the step up of the condition: to the left where the quantity falls with it.
  expect([largeDown[2], largeUp[2]]).toEqual([false, true]);
  expect(largeUp[0]).toBeLessThan(largeDown[0]);
  expect(smallUp[0]).toBeGreaterThan(smallDown[0]);
  expect(smallUp[1] / largeUp[1]).toBeCloseTo(0.25, 3);
  // Both meet in the middle.
  expect(largeUp[0] + largeUp[1]).toBeCloseTo(largeDown[0], 1);
  expect(smallUp[0]).toBeCloseTo(largeDown[0], 1);
  expect(svg).toContain("together ±4.1");
});

test("nothing is drawn where no answer is known, or none moves it", () => {
  expect(tornado({ shares: [{ key: "a", label: "a" }] }, "drag")).toBeUndefined();
  expect(tornado({ shares: [share("a", 0, 0)], relative: 0 }, "drag")).toBeUndefined();
  expect(bars(tornado({ shares: [{ key: "b", label: "b" }, share("a", 1, 0.02)] }, "drag") ?? "")).toHaveLength(2);
});
