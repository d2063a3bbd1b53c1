import { expect, test } from "vitest";
import type { Profile } from "@/core/records/profile";
import { type Compared, groupsOf, sharedScale } from "./stations";

const profile = (key: string, ys: number[], name = "u"): Profile => ({
  key,
  name: key,
  abscissa: { name: "y", unit: "m", values: ys.map((_, i) => i) },
  value: { name, unit: "m/s", values: ys },
});
const compared = (profileKey: string, runId: string, change: Partial<Compared> = {}): Compared => ({
  profileKey,
  yardstick: "Traverse",
  yardstickKey: "y",
  kind: "measured",
  inside: true,
  name: profileKey,
  units: { abscissa: "m", value: "m/s" },
  runId,
  runLabel: runId,
  code: runId,
  leading: runId === "fine",
  points: [{ at: 1, simulated: 1, reference: 5, difference: -4, uReference: 1, shared: 0 }],
  compared: 1,
  outside: 0,
  range: 1,
  rangeName: "range",
  l1: 0,
  l2: 0,
  linf: 0,
  notes: [],
  ...change,
});

test("curves of one yardstick that are counted alike stand together, with other codes' beside them; others stand apart", () => {
  const list = [
    compared("a", "fine"),
    compared("b", "fine"),
    compared("t", "fine"),
    compared("a", "other"),
    compared("a", "fine", { yardstickKey: "z" }),
  ];
  const groups = groupsOf(list, {
    fine: [profile("a", [0, 1]), profile("b", [-2, 3]), profile("t", [280, 290], "T")],
    other: [profile("a", [0, 4])],
  });
  expect(groups.map((g) => g.stations.map((s) => [s.leading.profileKey, s.others.map((o) => o.compared.runId)]))).toEqual([
    [
      ["a", ["other"]],
      ["b", []],
    ],
    [["t", []]],
    [["a", []]],
  ]);
  // Curves from -2 to 4, points to 5 + 2 u = 7, a twentieth of room.
  expect(sharedScale(groups[0])).toEqual({
    x: [expect.closeTo(-0.05, 12), expect.closeTo(1.05, 12)],
    y: [expect.closeTo(-2.45, 12), expect.closeTo(7.45, 12)],
  });
});

test("a curve whose run is not there is left out, and one point has no scale", () => {
  expect(groupsOf([compared("a", "fine")], {})).toEqual([]);
  const [single] = groupsOf([compared("a", "fine", { points: [] })], { fine: [profile("a", [2])] });
  expect(sharedScale(single)).toBeUndefined();
});
