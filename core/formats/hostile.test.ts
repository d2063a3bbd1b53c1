import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { guessRoles } from "../intake/columnRoles.ts";
import { guessRowRoles, readQuantityRows } from "../intake/quantityImport.ts";
import { convert, parseQuantity } from "../units/units.ts";
import { readDelimited } from "./delimited.ts";
import { readSheet } from "./sheet.ts";
import { PIECES, SOUND_TABLES } from "./spoiltForTests.ts";

const many = (text: string, n = 100_000) => text.repeat(n);
const below = (header: string) => `${header}\n1,2\n2,3\n3,4\n`;

describe("files made to keep a reader busy", () => {
  test.each([
    ["opening brackets in a name", below(`it,a${many("(")}`), "The name of column 2 has 100001 characters"],
    ["underscores in a name", below(`it,a${many("_", 300_000)}b`), "The name of column 2 has 300002 characters"],
    ["blanks in a name", below(`it,a${many(" ")}(`), "The name of column 2 has 100002 characters"],
    ["digits that are no number", below(`it,${many("1")}x`), "The name of column 2 has 100001 characters"],
    [
      "50,000 columns",
      `${Array.from({ length: 50_000 }, (_, i) => `c${i}`).join(",")}\n${many("1,", 49_999)}1\n`,
      "50000 columns are more than the 400",
    ],
    ["a long name in a comment", `# it,a${many("(")}\n1,2\n`, "The name of column 2 has"],
    ["a million characters without an end of line", many("x", 1_100_000), "A line of more than a million characters"],
  ])("%s: refused with a sentence that says where", (_name, text, sentence) => {
    const read = readSheet(text);
    expect(read.ok ? "read" : read.problems[0].sentence).toContain(sentence);
  });
  test("returns without anything between them are empty lines", () => {
    const read = readSheet(`${many("\r", 3_000_000)}it,a\r1,2\r`);
    expect(read.ok && read.sheet.rows).toBe(1);
  });
  test("columns that join beyond the most are told, not taken", () => {
    const wide = Array.from({ length: 500 }, (_, i) => `c${i}`);
    const line = (n: number, of = wide) => of.slice(0, n).join(",");
    const ones = wide.map(() => "1");
    const read = readDelimited(`${line(380)}\n${line(380, ones)}\n${line(500)}\n${line(500, ones)}\n`);
    expect(read.ok ? "read" : read.problems[0].sentence).toContain("more than the 400");
  });
  test("rows of a table with endless names and units are looked at no further than they can be meant", () => {
    const table = readDelimited(`name,value,unit\n${many("_")},1,${many("(")}\n${many("a ")},2,${many("m*")}m\n`);
    if (!table.ok) throw new Error(table.problems[0].sentence);
    const rows = readQuantityRows(table.table);
    expect(rows.ok && guessRowRoles(rows.rows, [])).toEqual(["ignore", "ignore"]);
    expect(convert(1, many("("), "m")).toBeUndefined();
    expect(parseQuantity(`1 ${many("m*")}m`, "m")).toMatchObject({ ok: false, sentence: expect.stringContaining("is no number with a unit") });
  });
});

test("10,000 spoilt files: each is read or refused with a line and a sentence, never with an exception", () => {
  const spoilt = fc
    .tuple(fc.constantFrom(...SOUND_TABLES), fc.array(fc.tuple(fc.nat(), fc.nat(8), fc.constantFrom(...PIECES)), { minLength: 1, maxLength: 4 }))
    .map(([text, cuts]) =>
      cuts.reduce((so, [at, gone, put]) => so.slice(0, at % (so.length + 1)) + put + so.slice((at % (so.length + 1)) + gone), text),
    );
  let read = 0;
  fc.assert(
    fc.property(spoilt, (text) => {
      const found = readSheet(text);
      if (!found.ok) {
        expect(found.problems[0].line).toBeGreaterThan(0);
        expect(found.problems[0].sentence).toMatch(/\.$/);
        return;
      }
      read++;
      const { sheet } = found;
      expect(sheet.columns.every((c) => c.length === sheet.rows)).toBe(true);
      expect(guessRoles(sheet, [])).toHaveLength(sheet.header.length);
    }),
    { numRuns: 10_000 },
  );
  // Spoiling is mild enough that many still say what they say.
  expect(read).toBeGreaterThan(1000);
});
