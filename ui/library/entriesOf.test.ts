import { describe, expect, test } from "vitest";
import { LIBRARY } from "@/core/exact/library";
import { entriesOf, entryText, placeOf, valueAt } from "./entriesOf";

describe("entries of a solution", () => {
  test("figures as a person would type them, with their unit", () => {
    expect([entryText(0.02, "m"), entryText(1.74e-5, "Pa s"), entryText(1.4, "")]).toEqual(["0.02 m", "1.74e-5 Pa s", "1.4"]);
  });
  test("begin with what the case says, else with the presets", () => {
    const pipe = LIBRARY.find((s) => s.id === "pipe");
    expect(entriesOf(pipe?.parameters ?? [], { diameterM: 0.3 })).toMatchObject({ diameterM: "0.3 m", meanMS: "0.5 m/s" });
  });
  test("sliders go from end to end of every parameter, and a place and its value belong together", () => {
    for (const p of LIBRARY.flatMap((s) => s.parameters)) {
      expect([valueAt(p, 0), valueAt(p, 1000)]).toEqual([p.low, p.high]);
      expect([placeOf(p, p.low), placeOf(p, p.high)]).toEqual([0, 1000]);
      for (const place of [137, 500, 861]) {
        const value = valueAt(p, place);
        expect(value).toBeGreaterThanOrEqual(p.low);
        expect(value).toBeLessThanOrEqual(p.high);
        // Three digits are kept of a value: a few steps of a slider either way, of a whole number more.
        if (!p.choices && !p.whole) expect(Math.abs(placeOf(p, value) - place)).toBeLessThanOrEqual(3);
      }
    }
  });
});
