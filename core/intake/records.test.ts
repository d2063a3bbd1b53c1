import { describe, expect, test } from "vitest";
import { readDelimited } from "../formats/delimited.ts";
import { readRecordJson } from "../formats/recordJson.ts";
import { readSheet, type Sheet } from "../formats/sheet.ts";
import { guessRoles } from "./columnRoles.ts";
import { ownerOf, readFileName } from "./fileNames.ts";
import { buildHistory } from "./historyImport.ts";
import { buildQuantities, guessRowRoles, readQuantityRows } from "./quantityImport.ts";
import { applyRecipe } from "./recipes.ts";

const sheet = (text: string): Sheet => {
  const r = readSheet(text);
  if (!r.ok) throw new Error(r.problems.map((p) => `${p.line}: ${p.sentence}`).join("; "));
  return r.sheet;
};
const table = (text: string) => {
  const r = readDelimited(text);
  if (!r.ok) throw new Error(r.problems.map((p) => `${p.line}: ${p.sentence}`).join("; "));
  return r.table;
};

describe("histories", () => {
  const known = [{ key: "drag", name: "drag", symbol: "F" }];
  test("roles are guessed, log10 residuals by their sign", () => {
    const t = sheet("Iteration,mass residual,x momentum,drag (N)\n1,-1,0.1,5\n2,-2,0.05,5\n3,-3,0.02,5\n4,-4,0.01,5\n");
    const roles = guessRoles(t, known);
    expect(roles).toEqual(["iteration", "log-residual", "residual", "quantity:drag"]);
    const h = buildHistory(t, roles);
    expect(h.ok && h.history.residuals.mass[3]).toBeCloseTo(1e-4, 12);
  });
  test("a pressure is not taken for a residual by three of its letters", () => {
    expect(guessRoles(sheet("it,res,pressure drop (Pa)\n1,1,5\n2,0.5,5\n"), known)).toEqual(["iteration", "residual", "ignore"]);
  });
  test("a restart keeps the later entry, gaps stay gaps and are counted", () => {
    const h = buildHistory(sheet("it,res\n1,1\n2,0.5\n2,0.4\n3,\n4,NaN\n"), ["iteration", "residual"]);
    if (!h.ok) throw new Error("refused");
    expect(h.history.iteration).toEqual([1, 2, 3, 4]);
    expect(h.history.residuals.res[1]).toBe(0.4);
    expect(h.notes.join(" ")).toContain("2 cells are empty");
    expect(h.notes.join(" ")).toContain("1 iterations stand twice");
  });
  test.each([
    ["time runs back", "time (s),q\n0.1,1\n0.3,1\n0.2,1\n", ["time", "quantity:q"], 4, "does not rise: 0.2 s after 0.3 s"],
    ["a missing time", "time (s),q\n0.1,1\n,1\n", ["time", "quantity:q"], 3, "The time is missing"],
    ["two iterations", "a,b,q\n1,1,1\n", ["iteration", "iteration", "quantity:q"], 1, "Two columns are marked as the iteration"],
    ["a missing iteration", "it,q\n1,1\nNaN,1\n", ["iteration", "quantity:q"], 3, "The iteration is missing"],
    ["one quantity twice", "it,q,r\n1,1,1\n", ["iteration", "quantity:q", "quantity:q"], 1, "the same quantity"],
    ["a bracket never closed", "it F\n1 (1 2)\n2 (4 5\n", ["iteration", "quantity:q", "ignore"], 3, '"(4" is not a number'],
    ["nothing marked", "it,q\n1,1\n", ["iteration", "ignore"], 1, "No column is marked"],
  ] as const)("broken: %s", (_name, text, roles, line, words) => {
    const h = buildHistory(sheet(text), [...roles]);
    expect(h.ok ? [] : h.problems.map((p) => p.line)).toContain(line);
    expect(h.ok ? "" : h.problems.map((p) => p.sentence).join(" ")).toContain(words);
  });
  test("residuals counted in several ways are not mixed", () => {
    const t = sheet("it,mass res rms,x momentum res rms,mass res max,energy_res_max\n1,1,1,2,2\n2,.5,.5,1,1\n");
    const roles = guessRoles(t, known);
    expect(roles).toEqual(["iteration", "residual", "residual", "ignore", "ignore"]);
    const kept = buildHistory(t, roles);
    expect(kept.ok && kept.notes.join(" ")).toContain("left out: mass res max, energy_res_max");
    const mixed = buildHistory(t, ["iteration", "residual", "residual", "residual", "residual"]);
    expect(mixed.ok ? "" : mixed.problems.map((p) => p.sentence).join(" ")).toMatch(/two columns.*different ways \(rms, max\)/s);
  });
  test("units of columns are turned into those of the case, temperatures with their zero", () => {
    const t = sheet("time (ms),drag (kN),warm (degC)\n1,2,0\n2,3,10\n");
    const quantities = [
      { key: "drag", name: "drag", symbol: "F", unit: "N" },
      { key: "warm", name: "warm", symbol: "T", unit: "K" },
    ];
    const h = buildHistory(t, guessRoles(t, quantities), quantities);
    expect(h.ok && [h.history.time, h.history.quantities]).toEqual([[0.001, 0.002], { drag: [2000, 3000], warm: [273.15, 283.15] }]);
    const wrong = buildHistory(t, ["time", "quantity:warm", "ignore"], quantities);
    expect(wrong.ok ? "" : wrong.problems[0].sentence).toBe('"kN" cannot be turned into K; correct the unit or what the column is.');
  });
  test("a recipe fits files and cases that have what it reads", () => {
    const columns = [
      { name: "It", role: "iteration" },
      { name: "F", role: "quantity:q7", unit: "kN", quantity: "Drag" },
      { name: "left", role: "ignore" },
    ];
    expect(applyRecipe(columns, ["F", "it", "other"], known)).toEqual({
      roles: ["quantity:drag", "iteration", "ignore"],
      units: ["kN", undefined, undefined],
    });
    expect(applyRecipe(columns, ["it", "other"], known)).toBeUndefined();
    expect(applyRecipe(columns, ["F", "it"], [])).toBeUndefined();
  });
  test.each([
    ["cut off", '{"format":"tin-ruler-record","version":1,\n"columns":[{"name":"it","values":[1,2', 2, "not JSON from here on"],
    ["another format", '{"format":"table","version":1,"columns":[]}', 1, "format"],
    ["uneven", '{"format":"tin-ruler-record","version":1,"columns":[{"name":"it","values":[1,2]},{"name":"q","values":[1]}]}', 1, "1 values where"],
    ["words", '{"format":"tin-ruler-record","version":1,"columns":[{"name":"it","values":["x"]}]}', 1, "columns.0.values.0"],
  ])("broken JSON record: %s", (_name, text, line, words) => {
    const r = readRecordJson(text);
    expect(r.ok ? [] : r.problems[0]).toMatchObject({ line, sentence: expect.stringContaining(words) });
  });
  test("a JSON record becomes the sheet the same table gives", () => {
    const r = readRecordJson(
      JSON.stringify({
        format: "tin-ruler-record",
        version: 1,
        columns: [
          { name: "it", values: [1, 2] },
          { name: "drag", unit: "N", values: [5, null] },
        ],
      }),
    );
    expect(r.ok && r.sheet).toMatchObject({
      header: ["it", "drag"],
      units: [undefined, "N"],
      rows: 2,
      columns: [Float64Array.of(1, 2), Float64Array.of(5, Number.NaN)],
    });
  });
  test("words among numbers are named with their line and column", () => {
    const h = buildHistory(sheet("it,res\n1,1\n2,abc\n"), ["iteration", "residual"]);
    expect(h.ok ? [] : h.problems).toEqual([{ line: 3, column: "res", sentence: '"abc" is not a number.' }]);
  });
  test("a negative residual asks about log10", () => {
    const h = buildHistory(sheet("it,res\n1,1\n2,-3\n"), ["iteration", "residual"]);
    expect(h.ok ? "" : h.problems[0].sentence).toContain("log10");
  });
});

describe("quantities", () => {
  const known = [{ key: "length", name: "reattachment length", symbol: "x_r", unit: "m" }];
  const rowsOf = (text: string) => {
    const r = readQuantityRows(table(text));
    if (!r.ok) throw new Error("refused");
    return r.rows;
  };
  test("units are converted and boundary masses become a balance", () => {
    const rows = rowsOf("name,value,unit\nreattachment length,412,mm\nmass flow inlet,-0.2,kg/s\nmass flow outlet,198,g/s\n");
    const q = buildQuantities(rows, guessRowRoles(rows, known), known);
    if (!q.ok) throw new Error(q.problems[0].sentence);
    expect(q.quantities.length).toBeCloseTo(0.412, 12);
    expect(q.balance?.boundaries.map((b) => b.mass)).toEqual([-0.2, 0.198]);
  });
  test.each([
    ["outward", [-0.2, 0.19]],
    ["inward", [0.2, -0.19]],
  ] as const)("flows counted %s, of a half model, become outward flows of the whole", (signs, [enters, leaves]) => {
    const text = `name,value,unit\nreattachment length,1,m\nmass flow inlet,${enters},kg/s\nheat flow inlet,${10 * enters},kW\nmass flow outlet,${leaves},kg/s\n`;
    const rows = rowsOf(text);
    const q = buildQuantities(rows, guessRowRoles(rows, known), known, { signs, factor: 2 });
    expect(q.ok && q.balance).toEqual({
      factor: 2,
      boundaries: [
        { name: "inlet", mass: -0.4, scalars: { energy: [-4000, 0] } },
        { name: "outlet", mass: 0.38 },
      ],
    });
  });
  test("flows that are all positive are told apart by their names, or refused", () => {
    const read = (name: string) => {
      const rows = rowsOf(`name,value,unit\nreattachment length,1,m\nmass flow supply,0.2,kg/s\nmass flow ${name},0.2,kg/s\n`);
      return buildQuantities(rows, guessRowRoles(rows, known), known, { signs: "by-name", factor: 1 });
    };
    const good = read("exhaust");
    expect(good.ok && good.balance?.boundaries.map((b) => b.mass)).toEqual([-0.2, 0.2]);
    const bad = read("side door");
    expect(bad.ok ? "" : bad.problems[0]).toMatchObject({ line: 4, sentence: expect.stringContaining("cannot be told from its name") });
  });
  test("a wrong dimension is refused with its line", () => {
    const rows = rowsOf("name,value,unit\nreattachment length,412,kg\n");
    const q = buildQuantities(rows, ["quantity:length"], known);
    expect(q.ok ? [] : q.problems).toEqual([{ line: 2, column: "unit", sentence: '"kg" of reattachment length cannot be turned into m.' }]);
  });
});

describe("columns as codes name them", () => {
  test("names and units in two comment lines", () => {
    const found = sheet("# iteration  mass_residual  drag\n# -  1  N\n1 0.1 2.5\n2 0.01 2.6\n3 0.001 2.65\n");
    expect(found.header).toEqual(["iteration", "mass_residual", "drag"]);
    expect(found.units).toEqual(["1", "1", "N"]);
  });
  test("the nearest comment alone still names the columns", () => {
    expect(sheet("# made by Lintel\n# it res drag\n1 0.1 2.5\n2 0.01 2.6\n").header).toEqual(["it", "res", "drag"]);
  });
  test.each([
    ["log10(R_mass)", "mass"],
    ["log10 (mass residual)", "mass"],
    ["lg_energy_residual", "energy"],
  ])("%s is the logarithm of a residual, and its bracket no unit", (name, kept) => {
    const found = sheet(`it;${name}\n1;-1\n2;-2\n3;-3.5\n`);
    expect(found.units[1]).toBeUndefined();
    expect(guessRoles(found, [])).toEqual(["iteration", "log-residual"]);
    const h = buildHistory(found, guessRoles(found, []));
    expect(h.ok && Object.entries(h.history.residuals)).toEqual([[kept, [0.1, 0.01, expect.closeTo(10 ** -3.5, 12)]]]);
  });
  test("a linear residual by its letter", () =>
    expect(guessRoles(sheet("it,R_u,R_v\n1,0.1,0.2\n2,0.01,0.02\n"), [])).toEqual(["iteration", "residual", "residual"]));
  const drag = [{ key: "q", name: "drag", symbol: "F", unit: "N" }];
  test("a column without a unit is asked for its unit; cm/s do not come in as m/s", () => {
    const speed = [{ key: "q", name: "speed", symbol: "u", unit: "m/s" }];
    const bare = buildHistory(sheet("it,speed\n1,752\n2,751\n"), ["iteration", "quantity:q"], speed);
    expect(bare.ok ? "" : bare.problems[0].sentence).toMatch(/unit of "speed" is not given: type it, m\/s or/);
    const given = buildHistory(sheet("it,speed\n1,752\n2,751\n"), ["iteration", "quantity:q"], speed, [undefined, "cm/s"]);
    expect(given.ok && given.history.quantities.q[0]).toBeCloseTo(7.52, 12);
    const pure = buildHistory(sheet("it,c\n1,0.3\n2,0.31\n"), ["iteration", "quantity:q"], [{ ...drag[0], unit: "1" }]);
    expect(pure.ok).toBe(true);
  });
  test("of a quantity that is a frequency the record keeps its own unit", () => {
    const lift = sheet("time (s),lift (N)\n0.1,1\n0.2,2\n");
    const roles = ["time", "quantity:q"] as const;
    expect(buildHistory(lift, [...roles], [{ ...drag[0], unit: "Hz" }]).ok).toBe(false);
    const h = buildHistory(lift, [...roles], [{ ...drag[0], unit: "Hz", take: "frequency" }]);
    expect(h.ok && h.history.quantities.q).toEqual([1, 2]);
  });
  test("every role that is offered is used: flows of mass, momentum, energy and species, over the iterations and at the end", () => {
    const text =
      "it,mass in (kg/s),mass out (kg/s),x in (N),x out (N),y in (N),y out (N),heat in (kW),heat out (W),tracer in (kg/s),tracer out (kg/s)\n" +
      "1,-1,0.9,-5,5,-2,2,-3,3000,-0.1,0.1\n2,-1,1,-5,5,-2,2,-3,2990,-0.1,0.1\n";
    const roles = ["iteration", ...["mass", "x", "y", "energy", "species"].flatMap((k) => [`boundary-${k}`, `boundary-${k}`])] as Parameters<
      typeof buildHistory
    >[1];
    const h = buildHistory(sheet(text), roles);
    if (!h.ok) throw new Error(h.problems[0].sentence);
    expect(Object.keys(h.history.balances ?? {})).toEqual(["mass", "x momentum", "y momentum", "energy", "species"]);
    expect(h.history.balances?.mass[0]).toBeCloseTo(0.1, 12);
    expect(h.history.balances?.energy[1]).toBeCloseTo(10 / 3000, 12);
    expect(h.balance?.boundaries.find((b) => b.name === "out")).toMatchObject({
      mass: 1,
      momentumX: [5, 0, 0],
      scalars: { energy: [2990, 0], species: [0.1, 0] },
    });
    const inward = buildHistory(sheet(text), roles, [], undefined, { signs: "inward", factor: 2 });
    expect(inward.ok && inward.balance?.boundaries[0].mass).toBe(2);
  });
  test("a row without a unit is asked for it too", () => {
    const rows = [{ line: 2, name: "drag", value: 3 }];
    const found = buildQuantities(rows, ["quantity:q"], drag);
    expect(found.ok ? "" : found.problems[0].sentence).toMatch(/unit of drag is not given: type it, N or/);
  });
});

describe("what the name of a file says", () => {
  test.each([
    ["L2 medium 310k history.csv", "L2 medium 310k", 310_000],
    ["box_64x64.csv", "box 64x64", 4096],
    ["duct 40x20x10 residuals.dat", "duct 40x20x10", 8000],
    ["fine_1.02M.txt", "fine 1.02M", 1_020_000],
    ["run 12 000 cells.csv", "run 12 000 cells", 12_000],
    ["night-2026.log", "night-2026", undefined],
    ["history.csv", "history", undefined],
  ])("%s", (name, label, cells) => expect(readFileName(name)).toEqual({ label, ...(cells === undefined ? {} : { cells }) }));
  test("a table goes to the run it shares most words with, and to none where that is not clear", () => {
    const labels = ["L1 coarse 96k", "L2 medium 310k", "L3 fine 1.02M"];
    expect(ownerOf("L3 fine fluxes.csv", labels)).toBe(2);
    expect(ownerOf("fluxes.csv", labels)).toBeUndefined();
    expect(ownerOf("all runs.csv", labels)).toBeUndefined();
  });
});
