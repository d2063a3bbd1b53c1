import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { normalsOf, randomFrom } from "../numeric/random.ts";
import { type Calibration, calibrationMistake, type Pixel, placeOf, readPlace, readPoint } from "./calibration.ts";
import { drawFigure, PAPER } from "./figureForTests.ts";
import { readFigureCurve } from "./readCurve.ts";
import { colourAt, findMarks, inkNear, paperOf, thinTrace, traceCurve } from "./trace.ts";

const plain: Calibration = {
  x: {
    at: [
      [100, 500],
      [700, 500],
    ],
    values: [0, 6],
    log: false,
  },
  y: {
    at: [
      [100, 500],
      [100, 100],
    ],
    values: [0, 2],
    log: false,
  },
};

describe("calibration", () => {
  test("straight axes: pixels to figures, on and off the axes", () => {
    expect(readPlace(plain, [400, 300])).toEqual([expect.closeTo(3, 12), expect.closeTo(1, 12)]);
    expect(readPlace(plain, [50, 600])).toEqual([expect.closeTo(-0.5, 12), expect.closeTo(-0.5, 12)]);
  });
  test("logarithmic axes: half way is the root of the product", () => {
    const c = { ...plain, x: { ...plain.x, values: [1, 100] as const, log: true } };
    expect(readPlace(c, [400, 300])[0]).toBeCloseTo(10, 12);
  });
  test("turned and leaning axes, places of calibration anywhere on them: there and back on random places", () => {
    const one = fc.record({
      turn: fc.double({ min: -0.6, max: 0.6, noNaN: true }),
      lean: fc.double({ min: -0.4, max: 0.4, noNaN: true }),
      logX: fc.boolean(),
      logY: fc.boolean(),
      at: fc.tuple(fc.integer({ min: 0, max: 800 }), fc.integer({ min: 0, max: 600 })),
    });
    fc.assert(
      fc.property(one, ({ turn, lean, logX, logY, at }) => {
        const ex: Pixel = [Math.cos(turn), Math.sin(turn)];
        const ey: Pixel = [Math.sin(turn + lean), -Math.cos(turn + lean)];
        const o: Pixel = [120, 480];
        const along = (e: Pixel, d: number): Pixel => [o[0] + d * e[0], o[1] + d * e[1]];
        const c: Calibration = {
          x: { at: [along(ex, 30), along(ex, 500)], values: [0.5, 80], log: logX },
          y: { at: [along(ey, 400), along(ey, 20)], values: [3, 0.01], log: logY },
        };
        const back = placeOf(c, readPlace(c, at));
        expect(Math.hypot(back[0] - at[0], back[1] - at[1])).toBeLessThan(1e-6);
        // Along the x axis the y value stays: axes may lean.
        const moved = readPlace(c, [at[0] + 40 * ex[0], at[1] + 40 * ex[1]]);
        expect(moved[1]).toBeCloseTo(readPlace(c, at)[1], 8);
      }),
      { numRuns: 200, seed: 6 },
    );
  });
  test("what cannot be used is said by axis", () => {
    const with_ = (change: object) => calibrationMistake({ ...plain, x: { ...plain.x, ...change } });
    expect(calibrationMistake(plain)).toBeUndefined();
    expect(with_({ values: [2, 2] })).toBe("The two values of the x axis are the same.");
    expect(with_({ values: [0, 10], log: true })).toBe("A logarithmic x axis has positive values only.");
    expect(with_({ values: [Number.NaN, 10] })).toBe("Both places of the x axis need a value.");
    expect(
      with_({
        at: [
          [100, 500],
          [101, 500],
        ],
      }),
    ).toBe("The two places of the x axis are too close to each other.");
    expect(
      with_({
        at: [
          [100, 500],
          [101, 100],
        ],
      }),
    ).toBe("The two axes run almost the same way.");
    expect(() => readPlace({ ...plain, x: { ...plain.x, values: [1, 1] } }, [0, 0])).toThrow(RangeError);
  });
  test("stated uncertainties hold: clicks and calibrations off by their pixels lie within two of them, 93 to 97 in a hundred, on linear and log axes", () => {
    const doubt = { reading: 0.8, calibration: 0.5 };
    for (const log of [false, true]) {
      const truth: Calibration = { x: { ...plain.x, values: [1, 1000], log }, y: { ...plain.y, values: [0.1, 10], log } };
      let [inX, inY] = [0, 0];
      for (let seed = 1; seed <= 1000; seed++) {
        const next = randomFrom(seed);
        const normal = normalsOf(next);
        const off = (p: Pixel, u: number): Pixel => [p[0] + u * normal(), p[1] + u * normal()];
        const place: Pixel = [150 + 500 * next(), 120 + 350 * next()];
        const axis = (a: Calibration["x"]) => ({ ...a, at: [off(a.at[0], doubt.calibration), off(a.at[1], doubt.calibration)] as const });
        const read = readPoint({ x: axis(truth.x), y: axis(truth.y) }, off(place, doubt.reading), doubt);
        const [x, y] = readPlace(truth, place);
        if (Math.abs(read.x - x) <= 2 * Math.hypot(read.own[0], read.shared[0])) inX++;
        if (Math.abs(read.y - y) <= 2 * Math.hypot(read.own[1], read.shared[1])) inY++;
      }
      for (const held of [inX, inY]) {
        expect(held).toBeGreaterThanOrEqual(930);
        expect(held).toBeLessThanOrEqual(972);
      }
    }
  });
});

describe("curves by colour", () => {
  const turnedBy = (turn: number, logX: boolean, logY: boolean): Calibration => {
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    const along = (a: number, b: number): Pixel => [110 + a * cos + b * sin, 520 + a * sin - b * cos];
    return {
      x: { at: [along(0, 0), along(640, 0)], values: logX ? [0.1, 100] : [0, 8], log: logX },
      y: { at: [along(0, 0), along(0, 400)], values: logY ? [0.01, 10] : [-1, 3], log: logY },
    };
  };
  test.each([
    ["straight", 0, false, false],
    ["turned", 0.06, false, false],
    ["log", 0, true, true],
    ["turned the other way, log y", -0.04, false, true],
  ])("a drawn curve is found again within what is stated: %s", (_, turn, logX, logY) => {
    const c = turnedBy(turn, logX, logY);
    // A curve by its share of the axes, so that it fits any scale.
    const shape = (s: number) => 0.5 + 0.35 * Math.sin(5 * s) * Math.exp(-s);
    const value = (axis: Calibration["x"], s: number) =>
      axis.log ? axis.values[0] * (axis.values[1] / axis.values[0]) ** s : axis.values[0] + s * (axis.values[1] - axis.values[0]);
    const truth = (s: number): Pixel => placeOf(c, [value(c.x, s), value(c.y, shape(s))]);
    const picture = drawFigure(820, 620, [
      { along: truth, from: 0.05, to: 0.95, colour: [200, 40, 30], thickness: 2.4, dash: [18, 9] },
      { along: (s) => placeOf(c, [value(c.x, s), value(c.y, 0.3 + 0.4 * s)]), from: 0, to: 1, colour: [30, 60, 160], thickness: 2 },
    ]);
    const start = truth(0.5);
    const found = traceCurve({ picture, crop: [60, 60, 800, 600], calibration: c, colour: [200, 40, 30], tolerance: 70, start });
    expect(found.length).toBeGreaterThan(300);
    const thin = thinTrace(found, 60);
    let [inside, worst] = [0, 0];
    for (const p of thin) {
      const read = readPoint(c, p.at, { reading: 0.35, calibration: 0 });
      const [x0, x1] = c.x.values;
      const s = logX ? Math.log(read.x / x0) / Math.log(x1 / x0) : (read.x - x0) / (x1 - x0);
      const off = Math.abs(read.y - value(c.y, shape(s)));
      if (off <= 2 * read.own[1]) inside++;
      worst = Math.max(worst, off / read.own[1]);
    }
    expect(inside / thin.length).toBeGreaterThan(0.93);
    expect(worst).toBeLessThan(5);
  });
  test("where two curves of one colour cross, the one that was pointed at is followed; without a place the first from the left", () => {
    const up = (s: number): Pixel => [100 + 600 * s, 480 - 300 * s];
    const down = (s: number): Pixel => [100 + 600 * s, 150 + 300 * s];
    const ink = { from: 0, to: 1, colour: [20, 90, 60] as const, thickness: 2 };
    const picture = drawFigure(800, 600, [
      { ...ink, along: up },
      { ...ink, along: down },
    ]);
    const wish = { picture, crop: [0, 0, 799, 599] as const, calibration: plain, colour: [20, 90, 60] as const, tolerance: 80 };
    const end = (start?: Pixel) => traceCurve({ ...wish, start }).at(-1)?.at[1] ?? 0;
    expect(Math.abs(end([160, 450]) - 180)).toBeLessThan(4);
    expect(Math.abs(end([160, 180]) - 450)).toBeLessThan(4);
    expect(end()).toBeGreaterThan(100);
    expect(traceCurve({ ...wish, colour: [255, 0, 255] })).toEqual([]);
  });
  test("where another curve lies over it, a label of its colour beside it is not taken for the curve", () => {
    const along = (s: number): Pixel => [60 + 680 * s, 200 - 60 * s];
    const over = (s: number): Pixel => [340 + 50 * s, 200 - 60 * ((280 + 50 * s) / 680)];
    const stroke = (k: number) => ({
      along: (s: number): Pixel => [345 + 9 * k, 240 + 17 * s],
      from: 0,
      to: 1,
      colour: [176, 48, 32] as const,
      thickness: 2,
    });
    const picture = drawFigure(800, 400, [
      { along, from: 0, to: 1, colour: [176, 48, 32], thickness: 3 },
      ...[0, 1, 2, 3, 4].map(stroke),
      { along: over, from: 0, to: 1, colour: [30, 80, 150], thickness: 7 },
    ]);
    const found = traceCurve({ picture, crop: [0, 0, 799, 399], calibration: plain, colour: [176, 48, 32], tolerance: 60, start: [100, 196] });
    expect(found.at(-1)?.at[0]).toBeGreaterThan(735);
    expect(Math.max(...found.map((p) => Math.abs(p.at[1] - (200 - (60 * (p.at[0] - 60)) / 680))))).toBeLessThan(2);
  });
  test("marks are found by their middles, specks are left out", () => {
    const dots: Pixel[] = [
      [150.3, 200.6],
      [320, 310.5],
      [555.7, 120.2],
    ];
    const picture = drawFigure(
      700,
      400,
      [],
      dots.map((at) => ({ at, radius: 5, colour: [160, 110, 20] as const })).concat([{ at: [600, 300], radius: 0.6, colour: [160, 110, 20] }]),
    );
    const found = findMarks({ picture, crop: [0, 0, 699, 399], colour: [160, 110, 20], tolerance: 60 });
    expect(found.length).toBe(3);
    for (const [i, m] of found.entries()) expect(Math.hypot(m.at[0] - dots[i][0], m.at[1] - dots[i][1])).toBeLessThan(0.25);
    expect(findMarks({ picture, crop: [300, 0, 699, 399], colour: [160, 110, 20], tolerance: 60 }).length).toBe(2);
  });
  test("a press near a thin line finds its ink, one on the paper finds none", () => {
    const line = { along: (s: number): Pixel => [50 + 300 * s, 100], from: 0, to: 1, colour: [20, 90, 160] as const, thickness: 2 };
    const picture = drawFigure(400, 200, [line]);
    expect(paperOf(picture)).toEqual([...PAPER]);
    expect(inkNear(picture, [200, 102.4])).toEqual({ colour: [20, 90, 160], at: [197, 100] });
    expect(inkNear(picture, [200, 120])).toBeUndefined();
    expect(inkNear(picture, [398, 199])).toBeUndefined();
  });
  test("colours are read over white paper, and what was read is drawn back over the picture", () => {
    const picture = { width: 2, height: 1, rgba: Uint8ClampedArray.from([0, 0, 0, 128, 10, 20, 30, 255]) };
    expect(colourAt(picture, [0, 0]).map(Math.round)).toEqual([127, 127, 127]);
    expect(colourAt(picture, [5, 5])).toEqual([10, 20, 30]);
    expect(colourAt(drawFigure(4, 4, []), [1, 1])).toEqual([...PAPER]);
    expect(placeOf(plain, [3, 1])).toEqual([expect.closeTo(400, 9), expect.closeTo(300, 9)]);
  });
});

describe("a curve off a picture", () => {
  test("rises whatever the order of the clicks; a printed bar adds by squares, whichever end was clicked", () => {
    const doubt = { reading: 1, calibration: 0 };
    const places = [
      { at: [400, 300] as const, bar: [400, 260] as const },
      { at: [160, 400] as const },
      { at: [640, 200] as const, bar: [640, 240] as const },
    ];
    const read = readFigureCurve(plain, places, doubt, 2);
    expect(read.abscissa.map((x) => Number(x.toFixed(9)))).toEqual([0.6, 3, 5.4]);
    expect(read.places).toEqual([
      [160, 400],
      [400, 300],
      [640, 200],
    ]);
    // A pixel is 0.005 high; a bar of 40 pixels is 0.2, half of it a standard uncertainty.
    expect(read.own).toEqual([expect.closeTo(0.005, 9), expect.closeTo(Math.hypot(0.005, 0.1), 9), expect.closeTo(Math.hypot(0.005, 0.1), 9)]);
    expect(readFigureCurve(plain, places, doubt, 1).own[1]).toBeCloseTo(Math.hypot(0.005, 0.2), 9);
    expect(read.shared).toEqual([0, 0, 0]);
    expect(read.place[0]).toBeCloseTo(0.01, 9);
  });
});
