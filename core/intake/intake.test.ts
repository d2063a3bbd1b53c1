import { describe, expect, test } from "vitest";
import { readDelimited } from "../formats/delimited.ts";
import { readSheet, type Sheet } from "../formats/sheet.ts";
import { type ColumnRole, guessRoles, insideLog, residualWay } from "./columnRoles.ts";
import { ownerOf, readFileName } from "./fileNames.ts";
import { buildHistory } from "./historyImport.ts";
import { boundaryName, buildQuantities, guessRowRoles, type QuantityRow, readQuantityRows, signOf } from "./quantityImport.ts";
import { applyRecipe } from "./recipes.ts";

const sheet = (text: string): Sheet => {
  const r = readSheet(text);
  if (!r.ok) throw new Error(r.problems.map((p) => `${p.line}: ${p.sentence}`).join("; "));
  return r.sheet;
};

describe("what columns are taken for", () => {
  const known = [{ key: "q", name: "drag force", symbol: "F" }];
  const roles = (header: string, row = header.replace(/[^,]+/g, "1")) => guessRoles(sheet(`${header}\n${row}\n${row}\n`), known);
  test.each<[string, ColumnRole]>([
    ["Iterations", "iteration"],
    ["outer iteration", "iteration"],
    ["n", "iteration"],
    ["flow time", "time"],
    ["t", "time"],
    ["Drag_Force", "quantity:q"],
    ["f", "quantity:q"],
    ["continuity", "residual"],
    ["R_u", "residual"],
    ["x-momentum", "residual"],
    ["energy", "residual"],
    ["w", "residual"],
    ["temperature", "ignore"],
    ["results", "ignore"],
    ["mass flow inlet (kg/s)", "boundary-mass"],
    ["mass flow inlet", "ignore"],
    ["mass flow inlet (m)", "ignore"],
    ["heat rate wall (kW)", "boundary-energy"],
    ["moisture flow out (g/s)", "boundary-species"],
  ])("%s: %s", (name, role) => expect(roles(`x,${name}`)[1]).toBe(role));
  test("only one iteration; the second is left out", () => expect(roles("it,step,res").slice(0, 2)).toEqual(["iteration", "ignore"]));
  test("residuals whose numbers are mostly below zero are logarithms, unless they are no exponents", () => {
    const guess = (values: readonly number[]) => guessRoles(sheet(`it,res\n${values.map((v, i) => `${i + 1},${v}`).join("\n")}\n`), [])[1];
    expect(guess([0.5, -1, -2, -3])).toBe("log-residual");
    expect(guess([0.5, 0.1, -2, -3])).toBe("residual");
    expect(guess([-1, -2, -3])).toBe("residual");
    expect(guess([-1, -2, -3, -31])).toBe("residual");
    expect(guess([-1, -2, -3, -29])).toBe("log-residual");
    expect(guess([-1, -2, -3, 10])).toBe("residual");
  });
  test("ways of counting, and names inside a logarithm", () => {
    expect(["mass res rms", "Scaled_mass", "linf mass", "mass"].map(residualWay)).toEqual(["rms", "scaled", "linf", ""]);
    expect(["log10(R_u)", "lg mass", "log_10( x )", "logged", "u"].map(insideLog)).toEqual(["R_u", "mass", "x", undefined, undefined]);
  });
  test("of residuals counted in several ways most decide, of equals the first", () => {
    expect(roles("it,mass rms res,u rms res,mass max res")).toEqual(["iteration", "residual", "residual", "ignore"]);
    expect(roles("it,mass max res,mass rms res")).toEqual(["iteration", "residual", "ignore"]);
  });
});

describe("histories", () => {
  const build = (
    text: string,
    roles: ColumnRole[],
    ...rest: [Parameters<typeof buildHistory>[2]?, Parameters<typeof buildHistory>[3]?, Parameters<typeof buildHistory>[4]?]
  ) => {
    const h = buildHistory(sheet(text), roles, ...rest);
    if (!h.ok) throw new Error(h.problems.map((p) => p.sentence).join("; "));
    return h;
  };
  const faults = (text: string, roles: ColumnRole[]) => {
    const h = buildHistory(sheet(text), roles);
    return h.ok ? [] : h.problems;
  };
  test("without an iteration rows are counted, and that is said", () => {
    const h = build("a,res\n7,1\n8,0.5\n", ["ignore", "residual"]);
    expect(h.history.iteration).toEqual([1, 2]);
    expect(h.notes).toEqual(["No column holds the iteration; rows were counted."]);
    expect(build("it,res\n7,1\n8,0.5\n", ["iteration", "residual"]).notes).toEqual([]);
  });
  test("out of order they are sorted; of twins the later stays", () => {
    const h = build("it,res\n3,0.3\n1,1\n2,0.5\n3,0.25\n", ["iteration", "residual"]);
    expect(h.history.iteration).toEqual([1, 2, 3]);
    expect(h.history.residuals.res).toEqual([1, 0.5, 0.25]);
    expect(h.notes).toEqual(["1 iterations stand twice, as after a restart; the later entry was kept."]);
  });
  test("names of residuals are freed of what says that they are some", () => {
    const h = build("it,R_mass,u residual,energy_residual,residual\n1,1,1,1,1\n", ["iteration", "residual", "residual", "residual", "residual"]);
    expect(Object.keys(h.history.residuals)).toEqual(["mass", "u", "energy", "residual"]);
  });
  test("a residual of zero is none below zero", () => expect(build("it,res\n1,0\n", ["iteration", "residual"]).history.residuals.res).toEqual([0]));
  test("times must rise, and be there", () => {
    expect(faults("t (s),q\n0.1,1\n0.1,1\n", ["time", "quantity:q"])[0]).toMatchObject({
      line: 3,
      sentence: "The time does not rise: 0.1 s after 0.1 s.",
    });
    expect(faults("it,t (s),q\n2,0.1,1\n1,0.2,1\n", ["iteration", "time", "quantity:q"])[0]).toMatchObject({ line: 2 });
  });
  test("percent becomes a share; another unit of a pure number is refused", () => {
    const pure = [{ key: "q", name: "q", symbol: "q", unit: "1" }];
    expect(build("it,q (%)\n1,50\n", ["iteration", "quantity:q"], pure).history.quantities.q).toEqual([0.5]);
    expect(build("it,q (-)\n1,50\n", ["iteration", "quantity:q"], pure).history.quantities.q).toEqual([50]);
    const wrong = buildHistory(sheet("it,q (m)\n1,50\n"), ["iteration", "quantity:q"], pure);
    expect(wrong.ok ? "" : wrong.problems[0].sentence).toBe('"m" cannot be turned into a pure number; correct the unit or what the column is.');
  });
  test("a unit corrected by a person stands before that of the file", () => {
    const speed = [{ key: "q", name: "q", symbol: "q", unit: "m/s" }];
    expect(build("it,q (m/s)\n1,50\n", ["iteration", "quantity:q"], speed, [undefined, "cm/s"]).history.quantities.q[0]).toBeCloseTo(0.5, 12);
  });
  test("flows through boundaries: net over the larger side, the last row that has them, times the factor", () => {
    const text = "it,mass flow inlet (kg/s),mass flow outlet (kg/s),mass flow leak (kg/s)\n1,-2,1,0.5\n2,-2,1.5,0.4\n3,-2,,0.4\n";
    const roles: ColumnRole[] = ["iteration", "boundary-mass", "boundary-mass", "boundary-mass"];
    const h = build(text, roles, [], undefined, { signs: "outward", factor: 3 });
    expect(h.history.balances?.mass[0]).toBeCloseTo(0.25, 12);
    expect(h.history.balances?.mass[1]).toBeCloseTo(0.05, 12);
    expect(h.balance?.factor).toBe(3);
    expect(h.balance?.boundaries.map((b) => [b.name, b.mass])).toEqual([
      ["inlet", -6],
      ["outlet", 4.5],
      ["leak", expect.closeTo(1.2, 12)],
    ]);
    const one = build("it,mass flow inlet (kg/s)\n1,-2\n", ["iteration", "boundary-mass"]);
    expect(one.history.balances).toBeUndefined();
    expect(one.notes).toEqual(["Only one boundary gives its mass: nothing to balance it with over the iterations."]);
    expect(one.balance).toEqual({ boundaries: [{ name: "inlet", mass: -2 }] });
  });
  test("a flow whose way its name does not tell is asked about", () => {
    const h = buildHistory(sheet("it,mass flow door (kg/s)\n1,2\n"), ["iteration", "boundary-mass"], [], undefined, { signs: "by-name", factor: 1 });
    expect(h.ok ? "" : h.problems[0].sentence).toContain("Whether mass flow door goes in or out cannot be told");
  });
});

describe("tables of quantities", () => {
  const rows = (text: string) => {
    const t = readDelimited(text);
    if (!t.ok) throw new Error("table");
    return readQuantityRows(t.table);
  };
  test("columns by any of their names; units may be missing", () => {
    expect(rows("What,Result,Units\ndrag,2,N\nlift,3,\n")).toEqual({
      ok: true,
      rows: [
        { line: 2, name: "drag", value: 2, unit: "N" },
        { line: 3, name: "lift", value: 3, unit: undefined },
      ],
    });
    const missing = rows("what,unit\ndrag,N\n");
    expect(missing.ok ? "" : missing.problems[0].sentence).toBe('Columns "name" and "value" are needed; the header has "what", "unit".');
    const word = rows("name,value\ndrag,much\nlift,\n");
    expect(word.ok ? [] : word.problems.map((p) => [p.line, p.column])).toEqual([
      [2, "value"],
      [3, "value"],
    ]);
  });
  const row = (name: string, value: number, unit?: string, line = 2): QuantityRow => ({ line, name, value, ...(unit === undefined ? {} : { unit }) });
  const known = [{ key: "q", name: "Drag", symbol: "F", unit: "N" }];
  test("roles by name and unit", () => {
    expect(
      guessRowRoles(
        [
          row("f", 1),
          row("mass flow in", 1, "g/s"),
          row("mass flow in", 1),
          row("tracer mass out", 1, "kg/s"),
          row("heat wall", 1, "kW"),
          row("heat", 1, "m"),
        ],
        known,
      ),
    ).toEqual(["quantity:q", "boundary-mass", "ignore", "boundary-species", "boundary-energy", "ignore"]);
  });
  const build = (r: QuantityRow[], roles: Parameters<typeof buildQuantities>[1], fluxes?: Parameters<typeof buildQuantities>[3], k = known) =>
    buildQuantities(r, roles, k, fluxes);
  const fault = (...args: Parameters<typeof build>) => {
    const b = build(...args);
    return b.ok ? "" : b.problems.map((p) => p.sentence).join(" ");
  };
  test("pure numbers need no unit and take no other", () => {
    const pure = [{ ...known[0], unit: "1" }];
    for (const unit of [undefined, "1", "-"])
      expect(build([row("Drag", 2, unit)], ["quantity:q"], undefined, pure)).toMatchObject({ ok: true, quantities: { q: 2 } });
    expect(fault([row("Drag", 2, "m")], ["quantity:q"], undefined, pure)).toBe('"m" of Drag cannot be turned into a pure number.');
  });
  test("the same twice, nothing at all", () => {
    expect(fault([row("Drag", 2, "N"), row("F", 3, "N")], ["quantity:q", "quantity:q"])).toBe("Two rows are marked as q.");
    expect(fault([row("mass in", 2, "kg/s"), row("mass flow in", 3, "kg/s")], ["boundary-mass", "boundary-mass"])).toBe(
      "Two rows give the same flow through in.",
    );
    expect(fault([row("Drag", 2, "N")], ["ignore"])).toContain("No row is marked");
    expect(fault([row("Drag", 2, "N")], [])).toContain("No row is marked");
  });
  test("forces on a boundary, for the whole model", () => {
    const b = build([row("x force wall", 2, "kN"), row("y force wall", 3, "N")], ["boundary-x", "boundary-y"], { signs: "outward", factor: 2 });
    expect(b.ok && b.balance).toEqual({ factor: 2, boundaries: [{ name: "wall", momentumX: [4000, 0, 0], momentumY: [6, 0, 0] }] });
  });
  test("names and signs of boundaries", () => {
    expect(["mass flow inlet", "heat through the wall", "Mass Flux, outlet: 2", "mass flow"].map(boundaryName)).toEqual([
      "inlet",
      "the wall",
      "outlet 2",
      "mass flow",
    ]);
    expect([
      signOf("x", 5, "outward"),
      signOf("x", 5, "inward"),
      signOf("supply", 5, "by-name"),
      signOf("leak", 5, "by-name"),
      signOf("door", 5, "by-name"),
    ]).toEqual([1, -1, -1, 1, undefined]);
    expect(signOf("door", 0, "by-name")).toBe(1);
    expect(signOf("outlet of the inlet", 1, "by-name")).toBe(-1);
  });
});

describe("names of files", () => {
  test.each([
    ["a/b\\L1 forces.csv", "L1", undefined],
    ["L1_quantities.xlsx", "L1", undefined],
    ["mesh 2.5m.csv", "mesh 2.5m", undefined],
    ["mesh 2,5M.csv", "mesh 2,5M", 2_500_000],
    ["mesh 96K.csv", "mesh 96K", 96_000],
    ["box 10x20.csv", "box 10x20", 200],
    ["box 10 × 20 × 3.csv", "box 10 × 20 × 3", 600],
    ["box 123456x2.csv", "box 123456x2", undefined],
    ["speed 2.5x3.csv", "speed 2.5x3", undefined],
    ["5kg.csv", "5kg", undefined],
    ["v2k.csv", "v2k", undefined],
    ["- L1 -.csv", "L1", undefined],
    ["1000 cells.csv", "1000 cells", 1000],
  ])("%s", (name, label, cells) => expect(readFileName(name)).toEqual({ label, ...(cells === undefined ? {} : { cells }) }));
  test("a table of one word in common goes there; of none, or as many with two, nowhere", () => {
    expect(ownerOf("fine values.csv", ["coarse", "fine"])).toBe(1);
    expect(ownerOf("mesh fine values.csv", ["mesh coarse", "mesh fine"])).toBe(1);
    expect(ownerOf("mesh values.csv", ["mesh coarse", "mesh fine"])).toBeUndefined();
    expect(ownerOf("fine.csv", [])).toBeUndefined();
  });
});

describe("recipes", () => {
  const quantities = [
    { key: "q1", name: "drag" },
    { key: "q2", name: "Lift" },
  ];
  const applied = (role: string, quantity?: string) =>
    applyRecipe([{ name: " Force ", role, ...(quantity ? { quantity } : {}), unit: "kN" }], ["it", "force"], quantities);
  test("columns by name, whatever the case and blanks; quantities by name before their key", () => {
    expect(applied("residual")).toEqual({ roles: ["ignore", "residual"], units: [undefined, "kN"] });
    expect(applied("quantity:q1", "lift")?.roles).toEqual(["ignore", "quantity:q2"]);
    expect(applied("quantity:q1")?.roles).toEqual(["ignore", "quantity:q1"]);
    expect(applied("quantity:q9")).toBeUndefined();
    expect(applied("quantity:q1", "torque")).toBeUndefined();
    expect(applied("ignore")).toEqual({ roles: ["ignore", "ignore"], units: [undefined, undefined] });
    expect(applyRecipe([{ name: "gone", role: "residual" }], ["it"], quantities)).toBeUndefined();
    expect(applyRecipe([{ name: "it", role: "iteration" }], ["it"], quantities)?.roles).toEqual(["iteration"]);
  });
});
