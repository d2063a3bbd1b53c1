import { expect, test } from "vitest";
import { calibrationOf, type FigureState } from "./useFigure";

const state = (change: Partial<FigureState> = {}): FigureState => ({
  places: { x1: [100, 500], x2: [700, 500], y1: [100, 500], y2: [100, 100] },
  values: { x1: "0", x2: "1,5", y1: "-0.5", y2: " 2.5 " },
  logX: false,
  logY: false,
  crop: [0, 0, 800, 600],
  curves: [],
  current: 0,
  tolerance: 60,
  keep: 60,
  reading: 0.7,
  calibrating: 0.5,
  coverage: 2,
  ...change,
});

test("a calibration is complete with four places and four figures, a comma for a point allowed", () => {
  expect(calibrationOf(state())).toEqual({
    calibration: {
      x: {
        at: [
          [100, 500],
          [700, 500],
        ],
        values: [0, 1.5],
        log: false,
      },
      y: {
        at: [
          [100, 500],
          [100, 100],
        ],
        values: [-0.5, 2.5],
        log: false,
      },
    },
  });
});

test("what is missing is named: the next place to press, a figure, a log axis through nought", () => {
  const missing = (change: Partial<FigureState>) => {
    const found = calibrationOf(state(change));
    return "missing" in found ? found.missing : "";
  };
  expect(missing({ places: {} })).toContain("x axis, first place");
  expect(missing({ places: { x1: [1, 1], x2: [9, 1], y1: [1, 1] } })).toContain("y axis, second place");
  expect(missing({ values: { x1: "", x2: "1", y1: "0", y2: "1" } })).toBe("Both places of the x axis need a value.");
  expect(missing({ values: { x1: "a", x2: "1", y1: "0", y2: "1" } })).toBe("Both places of the x axis need a value.");
  expect(missing({ logX: true })).toBe("A logarithmic x axis has positive values only.");
});
