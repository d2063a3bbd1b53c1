import { expect, test } from "vitest";
import type { LiveRun } from "../../api/useRunEvents.ts";
import { join, lastOf, liveDrop } from "./liveRecord.ts";

const COLUMNS = [
  { role: "iteration", key: "iteration" },
  { role: "residual", key: "mass" },
  { role: "residual", key: "x momentum" },
  { role: "quantity", key: "drag" },
];
const live = (rows: number[][], starts?: Record<string, number>) => ({ columns: COLUMNS, rows, starts }) as unknown as LiveRun;
const STARTS = { mass: 1, "x momentum": 10 };

test("the drop of a run under way is that of the residual that fell least", () => {
  const rows = [
    [1, 1, 10, 5],
    [2, 1e-4, 1e-1, 6],
  ];
  expect(liveDrop(live(rows, STARTS))).toBeCloseTo(2, 12);
  expect(liveDrop(live(rows.slice(0, 1), STARTS))).toBeUndefined();
  expect(liveDrop(live(rows))).toBeUndefined();
  expect(liveDrop(undefined)).toBeUndefined();
});

test("the last value of a quantity, and none of one that is not watched", () => {
  const said = live([
    [1, 1, 1, 5],
    [2, 1, 1, 6],
  ]);
  expect(lastOf(said, "drag")).toBe(6);
  expect(lastOf(said, "lift")).toBeUndefined();
  expect(lastOf(undefined, "drag")).toBeUndefined();
});

test("live rows follow the stored record; those it already holds are not told twice", () => {
  const stored = { iteration: [1, 2], residuals: { mass: [1, 0.5], "x momentum": [10, 9] }, quantities: { drag: [4, 5] }, balances: {} };
  const found = join(
    stored as unknown as Parameters<typeof join>[0],
    live([
      [2, 0.5, 9, 5],
      [3, 0.25, 8, 6],
    ]),
    "drag",
  );
  expect(found).toEqual({ iteration: [1, 2, 3], residuals: { mass: [1, 0.5, 0.25], "x momentum": [10, 9, 8] }, quantity: [4, 5, 6] });
});

test("before anything is stored the live columns name the residuals; a quantity nobody watched has gaps, not zeros", () => {
  const found = join(undefined, live([[1, 1, 10, 5]]), "lift");
  expect(found.residuals).toEqual({ mass: [1], "x momentum": [10] });
  expect(found.quantity).toEqual([Number.NaN]);
});
