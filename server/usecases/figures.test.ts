import { readFile } from "node:fs/promises";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { namedBlobs } from "../repositories/blobs.ts";
import { createCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { bringFigure, FigureInput, figurePicture } from "./figures.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let hash: string;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("figures"));
  hash = await opened.blobs.put(await readFile("demo/files/paper-figure.png"));
});
afterAll(() => close());

const figure = (change: object = {}) =>
  FigureInput.parse({
    picture: { hash, name: "paper.png" },
    calibration: {
      x: {
        at: [
          [100, 500],
          [700, 500],
        ],
        values: [1, 100],
        log: true,
      },
      y: {
        at: [
          [100, 500],
          [100, 100],
        ],
        values: [0, 2],
        log: false,
      },
    },
    x: { name: "Re", unit: "" },
    y: { name: "u", unit: "m/s" },
    doubt: { reading: 1, calibration: 0 },
    coverage: 2,
    curves: [{ name: "first", target: "", places: [{ at: [400, 300], bar: [400, 260] }, { at: [100, 400] }] }],
    name: "Paper",
    kind: "table",
    source: "made up",
    ...change,
  });
const make = () => createCase(opened, newCase());

test("places become figures with what the pixels leave open; the picture is kept, named, and given back", async () => {
  const { id } = await make();
  await bringFigure(opened, id, figure());
  const [y] = (await openCase(opened, id)).evidence.yardsticks;
  expect(y.profiles[0]).toMatchObject({
    profileKey: "first",
    abscissa: [1, expect.closeTo(10, 9)],
    value: [expect.closeTo(0.5, 9), expect.closeTo(1, 9)],
  });
  // A pixel of height is 0.005 m/s; the bar of 40 pixels is 0.2 at 95 %.
  expect((y.profiles[0].standardUncertainty as number[])[1]).toBeCloseTo(Math.hypot(0.005, 0.1), 9);
  expect(y.profiles[0].uncertaintyNote).toContain("printed bars");
  expect(y.figure?.places.first).toEqual([
    [100, 400],
    [400, 300],
  ]);
  expect((await namedBlobs(opened.db)).has(hash)).toBe(true);
  expect([...(await figurePicture(opened, y.key)).slice(1, 4)]).toEqual([80, 78, 71]);
});

test("a calibration that cannot be used, a unit that is none, and a picture that is none are refused; nothing is stored", async () => {
  const { id } = await make();
  const c = figure().calibration;
  await expect(bringFigure(opened, id, figure({ calibration: { ...c, x: { ...c.x, values: [0, 100] } } }))).rejects.toThrow("positive values only");
  await expect(bringFigure(opened, id, figure({ y: { name: "u", unit: "flurb" } }))).rejects.toMatchObject({
    details: { yUnit: expect.any(String) },
  });
  await expect(bringFigure(opened, id, figure({ picture: { hash: "0".repeat(64), name: "gone.png" } }))).rejects.toThrow("did not arrive");
  const text = await opened.blobs.put(new TextEncoder().encode("no picture at all"));
  await expect(bringFigure(opened, id, figure({ picture: { hash: text, name: "text.png" } }))).rejects.toThrow("did not arrive as a PNG");
  expect((await openCase(opened, id)).evidence.yardsticks).toEqual([]);
  await expect(figurePicture(opened, "00000000-0000-4000-8000-000000000000")).rejects.toThrow("not read off a figure");
  expect(() => figure({ curves: [{ name: "one", target: "", places: [{ at: [1, 1] }] }] })).toThrow("A curve needs two points");
});
