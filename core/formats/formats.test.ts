import fc from "fast-check";
import { inflateSync } from "fflate";
import { describe, expect, test } from "vitest";
import { buildHistory } from "../intake/historyImport.ts";
import { writeCsv } from "./csv.ts";
import { readDelimited } from "./delimited.ts";
import { encodePng } from "./png.ts";
import { readSheet, SheetReader } from "./sheet.ts";

const table = (text: string) => {
  const r = readDelimited(text);
  if (!r.ok) throw new Error(r.problems.map((p) => `${p.line}: ${p.sentence}`).join("; "));
  return r.table;
};
const sheet = (text: string) => {
  const r = readSheet(text);
  if (!r.ok) throw new Error(r.problems.map((p) => `${p.line}: ${p.sentence}`).join("; "));
  return r.sheet;
};
const problems = (text: string) => {
  const r = readDelimited(text);
  return r.ok ? [] : r.problems.map((p) => `${p.line}: ${p.sentence}`);
};

describe("delimited text", () => {
  test.each([
    ["comma", "iter,res (Pa)\n1,0.5\n2,0.25\n", ","],
    ["semicolon with decimal comma", "iter;res (Pa)\n1;0,5\n2;0,25\n", ";"],
    ["tab", "iter\tres (Pa)\n1\t0.5\n2\t0.25\n", "\t"],
    ["blanks and a comment", "# made by Lintel\niter res(Pa)\n  1   0.5\n  2   0.25\n", " "],
  ])("%s", (_name, text, delimiter) => {
    const t = table(text);
    expect(t.delimiter).toBe(delimiter);
    expect(t.header).toEqual(["iter", "res"]);
    expect(t.units[1]).toBe("Pa");
    const h = buildHistory(sheet(text), ["iteration", "residual"]);
    expect(h.ok && h.history.residuals.res).toEqual([0.5, 0.25]);
  });

  test.each([
    ["empty", "\n \n", "1: The file is empty."],
    ["binary", "a,b\n1,\u00002", "1: The file holds binary data"],
    ["no header", "1,2\n3,4\n", "1: The first line holds numbers"],
    ["a row too short", "a,b\n1,2\n3\n5,6\n", "3: 1 cells where the header has 2."],
    ["cut off", "a,b\n1,2\n3", "3: 1 cells where the header has 2; the file looks cut off here."],
    ["header only", "a,b\n", "1: There is a header but no row below it."],
    ["a name twice", "a,a\n1,2\n", '1: Two columns are both named "a".'],
    ["comments only", "# a\n# b\n", "1: The file holds comments only"],
    ["a row too long", "a,b\n1,2\n3,4,5\n6,7\n", "3: 3 cells where the header has 2."],
    ["a joined column that goes missing again", "a,b\n1,2\na,b,c\n3,4\n5,6,7\n", "4: 2 cells where the header in line 3 has 3."],
    ["a vector that lost a component", "t F\n1 (1 2 3)\n2 (1 2)\n3 (1 2 3)\n", "3: 3 cells where the header has 4."],
    ["a decimal comma among commas", "a,b\n1,5,2,5\n", "2: 4 cells where the header has 2"],
    ["a name twice in two lines", "jet,jet\nforce,force\n1,2\n", '2: Two columns are both named "jet force".'],
  ])("broken: %s", (_name, text, message) => expect(problems(text)[0]).toContain(message));

  const shape = (text: string) => {
    const t = sheet(text);
    return { header: t.header, units: t.units, rows: Array.from({ length: t.rows }, (_, r) => t.columns.map((c) => c[r])) };
  };
  test.each<[string, string, string[], number[][]]>([
    [
      "a line of units below the names",
      "time,force\n(s),(N)\n0.1,2\n0.2,3\n",
      ["time", "force"],
      [
        [0.1, 2],
        [0.2, 3],
      ],
    ],
    ["bare units", "time\tforce\ns\tN\n1\t2\n", ["time", "force"], [[1, 2]]],
    ["a title above the names", "Record of the curtain\ntime;force\n1;2,5\n", ["time", "force"], [[1, 2.5]]],
    ["two lines of names", "jet,jet,door\nforce,speed,leak\n1,2,3\n", ["jet force", "jet speed", "door leak"], [[1, 2, 3]]],
    [
      "names in a comment",
      "# iter  mass  force\n1 0.5 3\n2 0.25 3\n",
      ["iter", "mass", "force"],
      [
        [1, 0.5, 3],
        [2, 0.25, 3],
      ],
    ],
    [
      "other comments between rows",
      "it,r\n1,0.5\n% restarted\n// by hand\n2,0.4\n",
      ["it", "r"],
      [
        [1, 0.5],
        [2, 0.4],
      ],
    ],
    [
      "the header again after a restart",
      "it,r\n1,0.5\n2,0.4\nit,r\n2,0.45\n3,0.3\n",
      ["it", "r"],
      [
        [1, 0.5],
        [2, 0.4],
        [2, 0.45],
        [3, 0.3],
      ],
    ],
    [
      "a column that joins later",
      "it,r\n1,0.5\nit,r,force\n2,0.4,7\n",
      ["it", "r", "force"],
      [
        [1, 0.5, Number.NaN],
        [2, 0.4, 7],
      ],
    ],
    [
      "vectors in brackets among blanks",
      "time force\n0.1 (1 2 3)\n0.2 (4 5 6)\n",
      ["time", "force x", "force y", "force z"],
      [
        [0.1, 1, 2, 3],
        [0.2, 4, 5, 6],
      ],
    ],
    ["vectors in brackets, commas", "time,force (N)\n0.1,(1 -2e-1)\n", ["time", "force x", "force y"], [[0.1, 1, -0.2]]],
    ["a delimiter at the end of each line", "it,r,\n1,2,\n".replace("it,r,", "it,r"), ["it", "r"], [[1, 2]]],
    [
      "stated gaps of many kinds",
      "it,r\n1,NaN\n2,-nan\n3,inf\n4,***\n5,n/a\n6,1\n",
      ["it", "r"],
      [
        [1, NaN],
        [2, NaN],
        [3, NaN],
        [4, NaN],
        [5, NaN],
        [6, 1],
      ],
    ],
    [
      "old exponents, a mark of byte order, returns of another age",
      "\ufeffit,r\r1,1D-3\r2,2d-4\r",
      ["it", "r"],
      [
        [1, 1e-3],
        [2, 2e-4],
      ],
    ],
  ])("any common shape: %s", (_name, text, header, rows) => expect(shape(text)).toMatchObject({ header, rows }));
  test("units of a line of their own", () => expect(shape("time,force,ratio\n[s],[kN],[-]\n1,2,3\n").units).toEqual(["s", "kN", "1"]));

  test("written tables read back as they were", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ noNaN: true, noDefaultInfinity: true }), fc.double({ noNaN: true, noDefaultInfinity: true })), {
          minLength: 1,
          maxLength: 20,
        }),
        (rows) => {
          const t = table(writeCsv(["a", "b (m/s)"], rows));
          expect(t.cells.map((r) => r.map(Number))).toEqual(rows.map((r) => r.map((v) => (Object.is(v, -0) ? 0 : v))));
        },
      ),
    );
  });

  test("a text read in pieces of any length is the text read whole", () => {
    const text = "\ufeff# made up\r\nit,r (Pa),f\r\n1,0.5,(1 2)\r\n2,nan,(3 4)\r\n% restarted\r\nit,r (Pa),f,g\r\n2,0.25,(5 6),7\r\n";
    const whole = sheet(text);
    expect(whole.header).toEqual(["it", "r", "f x", "f y", "g"]);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: text.length }), { maxLength: 12 }), (cuts) => {
        const reader = new SheetReader();
        const at = [0, ...cuts.sort((a, b) => a - b), text.length];
        for (let k = 1; k < at.length; k++) reader.push(text.slice(at[k - 1], at[k]));
        const r = reader.end();
        expect(r.ok && r.sheet).toEqual(whole);
      }),
    );
  });

  test("formulas hidden in text are defused, numbers stay numbers", () => {
    expect(writeCsv(["name", "v"], [["=1+1", -2]])).toBe("name,v\n'=1+1,-2\n");
  });
});

test("PNG: signature, size and pixels survive", () => {
  const rgb = Uint8Array.from({ length: 2 * 2 * 3 }, (_, i) => i * 20);
  const png = encodePng(2, 2, rgb);
  const view = new DataView(png.buffer);
  expect([view.getUint32(16), view.getUint32(20)]).toEqual([2, 2]);
  const size = view.getUint32(33);
  const raw = inflateSync(png.subarray(41 + 2, 41 + size - 4));
  expect([...raw]).toEqual([0, ...rgb.subarray(0, 6), 0, ...rgb.subarray(6)]);
});
