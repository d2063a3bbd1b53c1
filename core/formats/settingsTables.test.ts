import { describe, expect, test } from "vitest";
import { flatSettings, settingsTables } from "./settingsTables.ts";

describe("settings as lines", () => {
  test("every value has its path; short lists are one line, long ones and lists of things one each", () => {
    const found = flatSettings({
      mesh: { nx: 8, periodic: false },
      none: null,
      files: ["a", "b"],
      things: [{ k: 1 }, { k: 2 }],
      long: Array.from({ length: 9 }, (_, i) => i),
    });
    expect([...found].slice(0, 5)).toEqual([
      ["mesh.nx", 8],
      ["mesh.periodic", "false"],
      ["files", "a, b"],
      ["things.1.k", 1],
      ["things.2.k", 2],
    ]);
    expect(found.get("long.9")).toBe(8);
    expect(found.has("none")).toBe(false);
  });
});

describe("tables", () => {
  test("what all have alike stands once, what differs run by run, what one lacks is its difference", () => {
    const [alike, own] = settingsTables([
      { label: "a", settings: { re: 100, mesh: { nx: 8 }, extra: "x" } },
      { label: "b", settings: { re: 100, mesh: { nx: 16 } } },
    ]);
    expect(alike).toMatchObject({ title: "Settings all 2 runs have", rows: [["re", "100"]] });
    expect(own.rows).toEqual([
      ["a", "mesh.nx", "8"],
      ["a", "extra", "x"],
      ["b", "mesh.nx", "16"],
    ]);
  });
  test("one run has no differences, none no tables", () => {
    expect(settingsTables([{ label: "a", settings: { re: 1e-5 } }]).map((t) => [t.title, t.rows])).toEqual([
      ["Settings of the run", [["re", "0.00001"]]],
    ]);
    expect(settingsTables([])).toEqual([]);
  });
});
