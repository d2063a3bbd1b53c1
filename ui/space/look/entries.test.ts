import { describe, expect, test } from "vitest";
import type { ShownArray } from "@/core/drawing/volume";
import {
  cornersOf,
  FIRST_ENTRIES,
  fieldChoices,
  type LookEntries,
  middlePlane,
  reachOf,
  roundedOut,
  sceneOf,
  typedPlace,
  vectorChoices,
} from "./entries";

const arrays: ShownArray[] = [
  { name: "U, m/s", on: "points", components: 3, unit: "m/s", low: 0, high: 2 },
  { name: "p (Pa)", on: "cells", components: 1, unit: "Pa", low: -1, high: 1 },
];
const choices = fieldChoices(arrays);
const of = (change: Partial<LookEntries>) => sceneOf({ ...FIRST_ENTRIES, ...change }, choices);
const room = { low: [0, -1, 0], high: [4, 1, 1] } as const;

describe("fields to be chosen", () => {
  test("of a vector are its size and its parts, of the rest the field, with where they lie", () => {
    expect(choices.map((c) => c.words)).toEqual(["U, size", "U, x", "U, y", "U, z", "p (cells)"]);
    expect(new Set(choices.map((c) => c.key)).size).toBe(5);
    expect(vectorChoices(arrays).map((c) => c.array.name)).toEqual(["U, m/s"]);
  });
});

describe("places and planes", () => {
  test.each([
    ["1, 2, 3", [1, 2, 3]],
    [" 1 2  3 ", [1, 2, 3]],
    ["1;2;−3", [1, 2, -3]],
    ["1, 2", undefined],
    ["1, 2, x", undefined],
  ])("%s is %j", (text, place) => {
    expect(typedPlace(text)).toEqual(place);
  });
  test("a new plane stands in the middle across the shortest way; planes are swept as far as they meet the room", () => {
    expect(middlePlane(room)).toMatchObject({ across: "2", at: "0.5" });
    expect(reachOf({ across: "0", normal: "", at: "" }, room)).toEqual([0, 4]);
    const [low, high] = reachOf({ across: "askew", normal: "1, -1, 0", at: "" }, room);
    expect(low).toBeCloseTo(-1 / Math.SQRT2, 12);
    expect(high).toBeCloseTo(5 / Math.SQRT2, 12);
  });
});

describe("ends of what is kept", () => {
  test.each([
    [-9.7752, false, "-9.776"],
    [19.9732, true, "19.98"],
    [19.9732, false, "19.97"],
    [0, true, "0"],
    [1.2e-7, true, "1.2e-7"],
  ])("%d rounded out (up: %s) is %s", (v, up, text) => {
    expect(roundedOut(v, up)).toBe(text);
  });
});

describe("what was typed as a scene", () => {
  test("nothing but the outside at first", () => {
    expect(of({})).toEqual({ asked: { smooth: false, range: "seen", outside: "whole", planes: [], equal: 0 }, mistakes: {} });
  });
  test("colours, planes, cutting away, one value, lines, arrows and equal lines", () => {
    const { asked, mistakes } = of({
      colour: choices[4].key,
      smooth: true,
      keep: choices[1].key,
      least: "0",
      most: "1",
      range: "typed",
      low: "-1",
      high: "2,5",
      planes: [
        { across: "1", normal: "", at: "0.25" },
        { across: "askew", normal: "0, 3, 4", at: "5" },
      ],
      clip: "1",
      level: choices[0].key,
      value: "1.5",
      lines: choices[0].key,
      from: "line",
      begin: "0 0 0",
      end: "0 1 0",
      count: "7",
      sense: "with",
      arrows: choices[0].key,
      equal: "9",
      mirror: "1",
      mirrorAt: "-2",
    });
    expect(mistakes).toEqual({});
    expect(asked).toMatchObject({
      colour: { name: "p (Pa)", on: "cells", component: 0 },
      smooth: true,
      range: [-1, 2.5],
      keep: { name: "U, m/s", component: 0, low: 0, high: 1 },
      planes: [
        { normal: [0, 1, 0], through: [0, 0.25, 0] },
        { normal: [0, 3, 4], through: [0, 3, 4] },
      ],
      clip: 1,
      level: { name: "U, m/s", component: "size", value: 1.5 },
      lines: { of: { name: "U, m/s" }, sense: "with", seeds: { from: "line", at: [0, 0, 0], to: [0, 1, 0], count: 7 } },
      arrows: { name: "U, m/s", on: "points" },
      equal: 9,
      mirror: { axis: 1, at: -2 },
    });
  });
  test("what cannot be used is said where it stands and left out; the rest is shown", () => {
    const { asked, mistakes } = of({
      range: "typed",
      low: "3",
      high: "1",
      planes: [
        { across: "askew", normal: "0, 0, 0", at: "1" },
        { across: "0", normal: "", at: "x" },
        { across: "2", normal: "", at: "0.5" },
      ],
      clip: "2",
      keep: choices[4].key,
      least: "a",
      most: "1",
      level: choices[4].key,
      value: "",
      lines: choices[0].key,
      from: "point",
      begin: "here",
      equal: "many",
    });
    expect(mistakes).toEqual({
      high: "The upper end lies above the lower one.",
      least: '"a" is not a number.',
      "plane 0": '"0, 0, 0" is no direction: three numbers such as 1, 1, 0.',
      "plane 1": '"x" is not a number.',
      value: '"" is not a number.',
      begin: '"here" is no place: three numbers, such as 0.1, 0, 2.',
      equal: '"many" is not a number.',
    });
    expect(asked).toEqual({
      smooth: false,
      range: "seen",
      outside: "whole",
      planes: [{ normal: [0, 0, 1], through: [0, 0, 0.5] }],
      clip: 0,
      equal: 0,
    });
  });
  test("lines over a cut wait for a cut", () => {
    expect(of({ lines: choices[0].key }).asked.lines).toBeUndefined();
    expect(of({ lines: choices[0].key, planes: [{ across: "0", normal: "", at: "1" }] }).asked.lines?.seeds).toEqual({ from: "cut", count: 24 });
    expect(of({ lines: choices[0].key, from: "line", begin: "0 0 0", end: "1 1 1", count: "0" }).asked.lines).toBeUndefined();
  });
});

test("a line has its ends and corners in their order; where one is no place there is none", () => {
  const line = { from: "0, 0, 0", to: "1 1 1", by: "" };
  expect(cornersOf(line)).toEqual([
    [0, 0, 0],
    [1, 1, 1],
  ]);
  expect(cornersOf({ ...line, by: "2, 0, 0; 2, 1, 0;" })).toEqual([
    [0, 0, 0],
    [2, 0, 0],
    [2, 1, 0],
    [1, 1, 1],
  ]);
  expect(cornersOf({ ...line, by: "2, 0; 1" })).toBeUndefined();
  expect(cornersOf({ ...line, to: "" })).toBeUndefined();
});
