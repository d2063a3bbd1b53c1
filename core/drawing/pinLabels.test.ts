import fc from "fast-check";
import { expect, test } from "vitest";
import { costOf, crosses, type LabelPlace, placeLabels, placesOf, touch } from "./pinLabels.ts";

const ENDS = [196, 1256] as const;
const names = ["round-off", "iteration", "balance", "mesh", "reference", "sampling", "time step", "inputs", "domain"];
const pinsWithin = (from: number, to: number, most: number) =>
  fc
    .array(fc.record({ x: fc.double({ min: from, max: to, noNaN: true }), name: fc.constantFrom(...names) }), { minLength: 1, maxLength: most })
    .map((pins) => pins.sort((a, b) => a.x - b.x));
const pairs = (places: readonly LabelPlace[]) => places.flatMap((a) => places.filter((b) => b !== a).map((b) => [a, b] as const));

test("pins a few pixels apart beside the pointer carry their names, and no stem runs through one", () => {
  const pins = [
    { x: 897, name: "iteration" },
    { x: 1015, name: "balance" },
    { x: 1038, name: "mesh" },
    { x: 1057, name: "reference" },
  ];
  const places = placeLabels(pins, ENDS, 1115);
  expect(places.every((p) => p.labelled)).toBe(true);
  expect(pairs(places).filter(([a, b]) => crosses(a, b))).toEqual([]);
});

test("labels never touch, never leave the rule and never stand on the pointer", () => {
  fc.assert(
    fc.property(
      pinsWithin(ENDS[0], ENDS[1], 10),
      fc.option(fc.double({ min: ENDS[0], max: ENDS[1], noNaN: true }), { nil: undefined }),
      (pins, pointer) => {
        const places = placeLabels(pins, ENDS, pointer);
        expect(places.map((p) => p.x)).toEqual(pins.map((p) => p.x));
        expect(pairs(places).filter(([a, b]) => touch(a, b))).toEqual([]);
        for (const p of places.filter((q) => q.labelled)) {
          expect(p.from).toBeGreaterThanOrEqual(ENDS[0] - 4);
          expect(p.to).toBeLessThanOrEqual(ENDS[1] + 4);
          if (pointer !== undefined) expect(p.to <= pointer - 8 || p.from >= pointer + 8).toBe(true);
        }
      },
    ),
    { seed: 9 },
  );
});

test("no layout of three crowded pins is better than the chosen one", () => {
  fc.assert(
    fc.property(pinsWithin(600, 660, 3), fc.double({ min: 590, max: 700, noNaN: true }), (pins, pointer) => {
      const every = pins.reduce<LabelPlace[][]>(
        (all, pin) => all.flatMap((places) => placesOf(pin.x, pin.name, ENDS, pointer).map((p) => [...places, p])),
        [[]],
      );
      expect(costOf(placeLabels(pins, ENDS, pointer))).toBeCloseTo(Math.min(...every.map(costOf)), 9);
    }),
    { seed: 9 },
  );
});
