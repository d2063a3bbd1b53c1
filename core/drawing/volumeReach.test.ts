import { expect, test } from "vitest";
import type { Grid } from "../dataset/grid.ts";
import { hexahedra } from "../dataset/made.ts";
import { HOLES, OFF_BOX } from "../monitors/reach/around.ts";
import { Volume } from "./volume.ts";
import { volumeReach } from "./volumeReach.ts";

/** Millimetres, 20 x 20 x 10 cubes of side 1 with a crate of 2 x 2 x 1 standing on the floor; U changes with the distance from the crate's middle alone. */
function hall(): Grid {
  const whole = hexahedra([20, 20, 10], (i, j, k) => [i - 10, j - 10, k]);
  const crate = (c: number) => [c % 20, Math.floor(c / 20) % 20].every((m) => m === 9 || m === 10) && c < 400;
  const kept = Array.from(whole.kinds.keys()).filter((c) => !crate(c));
  const values = Float64Array.from(
    Array.from({ length: whole.points.length / 3 }, (_, q) => {
      const r = Math.hypot(whole.points[3 * q], whole.points[3 * q + 1], whole.points[3 * q + 2]);
      return [3 - Math.max(0, 1 - r / 5), 0, 4];
    }).flat(),
  );
  return {
    ...whole,
    kinds: whole.kinds.slice(0, kept.length),
    cellStart: whole.cellStart.slice(0, kept.length + 1),
    corners: Int32Array.from(kept.flatMap((c) => [...whole.corners.subarray(8 * c, 8 * c + 8)])),
    onPoints: [{ name: "U, m/s", components: 3, values }],
  };
}

const asked = { of: { name: "U, m/s", on: "points", component: 0 }, unit: "m/s", free: 3, limit: 0.2, body: OFF_BOX, unitM: 0.001 } as const;

test("a field on points reaches as far as it departs, in metres, and its departure becomes a field to be looked at", () => {
  const volume = new Volume(hall());
  const { reach, made } = volumeReach(volume, asked);
  expect(reach.bodyM).toBeCloseTo(0.002, 12);
  // 1 - r / 5 is 0.2 at 4 mm; the crate's sides stand at 1 mm.
  for (const w of reach.ways.filter((x) => x.way !== "−z")) expect(Math.abs(1000 * w.extentM - 3)).toBeLessThan(0.25);
  expect(made).toMatchObject({ on: "cells", unit: "m/s", array: { name: "departure of U, m/s", components: 1 } });
  expect(made.made).toBe("Departure: how far U, m/s lies from 3 m/s, the mean of each cell's corners.");
  const shown = volume.put(made);
  expect(shown.high).toBeGreaterThan(0.6);
  expect(volume.find({ name: "departure of U, m/s", on: "cells" }).values.filter((v) => v > 0.2)).toHaveLength(reach.cells);
});

test("of a vector its size may be asked for; a body that is not there is refused", () => {
  const volume = new Volume(hall());
  const size = volumeReach(volume, { ...asked, of: { ...asked.of, component: "size" }, free: 5, limit: 0.1 });
  expect(size.made.made).toContain("U, m/s, its size, lies from 5 m/s");
  expect(size.reach.cells).toBeGreaterThan(10);
  expect(() => volumeReach(volume, { ...asked, body: HOLES })).toThrow("has no hole");
  expect(() => volumeReach(volume, { ...asked, limit: 0 })).toThrow("a limit above 0");
});
