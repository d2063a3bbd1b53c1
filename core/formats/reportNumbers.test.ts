import { expect, test } from "vitest";
import { reportNumbers } from "./reportNumbers.ts";

const section = (stage: string, tables: string[], drawings: string[]) => ({ stage, title: stage, sentences: [], tables, drawings });

test("numbers run through the report in reading order; a picture comes after the drawings of its chapter; what is shown twice has one number", () => {
  const { tables, figures } = reportNumbers({
    sections: [section("runs", ["a"], ["x"]), section("refinement", ["b", "a"], ["y", "x"])],
    pictures: [{ key: "speed", stage: "runs", title: "", pngBase64: "" }],
  });
  expect([...tables]).toEqual([
    ["a", "Table 1"],
    ["b", "Table 2"],
  ]);
  expect([...figures]).toEqual([
    ["x", "Figure 1"],
    ["speed", "Figure 2"],
    ["y", "Figure 3"],
  ]);
});
