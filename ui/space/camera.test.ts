import { expect, test } from "vitest";
import { afterDrag, afterKey, afterWheel, sidesOf } from "./camera";
import { FIRST_LOOK } from "./scene";

test("keys turn, shift, zoom and go back; others are left to the page", () => {
  const left = afterKey(FIRST_LOOK, "ArrowLeft", false);
  expect(left?.turn).toBeGreaterThan(FIRST_LOOK.turn);
  expect(left && afterKey(left, "ArrowRight", false)?.turn).toBeCloseTo(FIRST_LOOK.turn, 12);
  expect(afterKey(FIRST_LOOK, "ArrowUp", true)).toMatchObject({ shift: [0, -0.1], turn: FIRST_LOOK.turn });
  const near = afterKey(FIRST_LOOK, "+", false);
  expect(near && afterKey(near, "-", false)?.zoom).toBeCloseTo(FIRST_LOOK.zoom, 12);
  expect(afterKey({ turn: 3, lift: 1, zoom: 9, shift: [1, 1], up: 2 }, "0", false)).toEqual(FIRST_LOOK);
  expect(afterKey(FIRST_LOOK, "q", false)).toBeUndefined();
});

test("it never goes over the top, and never so near or far that nothing is seen", () => {
  let c = FIRST_LOOK;
  for (let k = 0; k < 40; k++) c = afterKey(c, "ArrowUp", false) ?? c;
  expect(c.lift).toBe(Math.PI / 2);
  expect(afterDrag(c, 0, 9, false).lift).toBe(Math.PI / 2);
  expect(afterWheel(c, 1e6).zoom).toBe(0.2);
  expect(afterWheel(c, -1e6).zoom).toBe(40);
  expect(afterDrag(FIRST_LOOK, 0.5, 0.25, true).shift).toEqual([0.5, -0.25]);
});

test("sides are called by the axes that lie flat, whichever is up", () => {
  expect(sidesOf(2).map(([n]) => n)).toEqual(["from −x", "from +x", "from −y", "from +y", "from above", "from below"]);
  expect(
    sidesOf(1)
      .map(([n]) => n)
      .slice(0, 4),
  ).toEqual(["from −z", "from +z", "from −x", "from +x"]);
});
