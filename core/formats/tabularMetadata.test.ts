import { expect, test } from "vitest";
import { columnNames, tabularMetadata } from "./tabularMetadata.ts";

test("names of columns are plain and none stands twice", () => {
  expect(columnNames(["drag (N)", "drag, N", "§", "_x_", "μ"])).toEqual(["drag_N", "drag_N_2", "column", "x", "column_2"]);
});

test("a table is described as the W3C's model has it: words are strings, figures doubles with their unit", () => {
  const made = tabularMetadata("t.csv", "T", [
    { name: "mesh", title: "mesh" },
    { name: "drag_N", title: "drag (N)", unit: "N", description: "worked out" },
  ]);
  expect(made).toMatchObject({
    "@context": ["http://www.w3.org/ns/csvw", { "@language": "en" }],
    url: "t.csv",
    tableSchema: {
      columns: [
        { name: "mesh", titles: "mesh", datatype: "string" },
        { name: "drag_N", titles: "drag (N)", datatype: "double", "schema:unitText": "N", "dc:description": "worked out" },
      ],
    },
  });
});
