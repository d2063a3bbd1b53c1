import { expect, test } from "vitest";
import { moved } from "./reportBlocks.ts";

test("a chapter moves a place and no further than the ends; what is not there moves nothing", () => {
  expect(moved(["a", "b", "c"], "b", -1)).toEqual(["b", "a", "c"]);
  expect(moved(["a", "b", "c"], "b", 1)).toEqual(["a", "c", "b"]);
  expect(moved(["a", "b"], "a", -1)).toEqual(["a", "b"]);
  expect(moved(["a", "b"], "b", 1)).toEqual(["a", "b"]);
  expect(moved(["a"], "x", 1)).toEqual(["a"]);
});
