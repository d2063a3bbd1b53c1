import { expect, test } from "vitest";
import { type MonitorEntries, monitorOf, startEntries, takeOf, takesOn } from "./monitorEntries.ts";

const CHOICES = {
  fields: [{ key: "u", name: "velocity along x", unit: "m/s" }],
  boundaries: ["warm wall", "cold wall"],
  carried: ["temperature"],
  extentM: [
    [0, 3],
    [-1, 2],
  ] as [[number, number], [number, number]],
};
const START = startEntries(CHOICES);
const typed = (change: Partial<MonitorEntries>): MonitorEntries => ({ ...START, ...change });

test("begins in the middle of the domain, on the first of everything", () => {
  expect([START.x, START.y, START.x2, START.y2, START.field, START.boundary, START.carried]).toEqual([
    "1.5",
    "0.5",
    "1.5",
    "2",
    "u",
    "warm wall",
    "temperature",
  ]);
});

test("a point is its field and its place, and takes nothing of it", () => {
  expect(monitorOf(typed({ x: "0.25" }))).toEqual({ on: "point", field: "u", at: [0.25, 0.5] });
  expect(takeOf(START)).toBeUndefined();
  expect(takesOn("point", ["temperature"])).toEqual([]);
});

test("a line has two ends; what is taken of it outlives a look at another place", () => {
  const line = typed({ on: "line", takes: { ...START.takes, line: "highest" } });
  expect(monitorOf(line)).toEqual({ on: "line", field: "u", from: [1.5, 0.5], to: [1.5, 2], take: "highest" });
  expect(takeOf({ ...line, on: "volume" })).toBe(START.takes.volume);
  expect(takeOf(line)).toBe("highest");
});

test("a boundary names what is carried only where its flow is taken", () => {
  const flow = "flow out of a carried quantity";
  expect(takesOn("boundary", ["temperature"])).toContain(flow);
  expect(takesOn("boundary", [])).not.toContain(flow);
  const on = (boundary: string) => monitorOf(typed({ on: "boundary", boundary: "cold wall", takes: { ...START.takes, boundary } }));
  expect(on(flow)).toEqual({ on: "boundary", boundary: "cold wall", take: flow, carried: "temperature" });
  expect(on("force along x")).toEqual({ on: "boundary", boundary: "cold wall", take: "force along x" });
});
