import { expect, test } from "vitest";
import { cutOf, entryOf, judgingWords, slopeFrom } from "./judging.ts";

test("an entry is counted from one, whatever iteration the record begins with", () => {
  expect(entryOf([1, 2, 3], 2.4)).toBe(2);
  expect(entryOf([501, 502], 503)).toBe(3);
  expect(entryOf([501, 502], 10)).toBe(1);
  expect(entryOf([], 4)).toBe(4);
});

test("the slope is read over the last quarter, of at least four and at most two hundred entries", () => {
  expect(slopeFrom(400)).toBe(301);
  expect(slopeFrom(8)).toBe(5);
  expect(slopeFrom(5000)).toBe(4801);
  expect(slopeFrom(2)).toBe(1);
});

test("moving the start of an average by three steps cuts three entries more, never less than none", () => {
  const average = { cutAt: 2, cut: 10, step: 0.5 };
  expect(cutOf(average, 3.5)).toBe(13);
  expect(cutOf(average, 2)).toBe(10);
  expect(cutOf(average, -10)).toBe(0);
});

test("what was read by hand is said in full, and nothing else", () => {
  expect(judgingWords({})).toBe("");
  expect(judgingWords({ startEntry: 3, stretchFrom: 40, cuts: { lift: 12 }, cut: 7 })).toBe(
    "start level at entry 3, slope from entry 40, lift averaged without its first 12 entries, averages without the first 7 entries",
  );
});
