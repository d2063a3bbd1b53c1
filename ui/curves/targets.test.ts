import { expect, test } from "vitest";
import { besideChoices, filled } from "./targets";

test("what was not filled in is left out", () =>
  expect(filled({ velocity: "2 m/s", length: "", density: undefined, mach: "0" })).toEqual({ velocity: "2 m/s", mach: "0" }));

test("a curve stands beside one of its own name unless another is chosen", () =>
  expect(besideChoices([{ key: "u-1", name: "u at 1" }])).toEqual([
    ["", "a curve of its own name"],
    ["u-1", "u at 1"],
  ]));
