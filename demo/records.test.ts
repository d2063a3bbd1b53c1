import { describe, expect, test } from "vitest";
import { acrossAxis, cutGrid } from "../core/dataset/cutGrid.ts";
import { gridQuality } from "../core/dataset/gridQuality.ts";
import { SlopeWork } from "../core/dataset/slopes.ts";
import { stitch } from "../core/dataset/stitch.ts";
import { readFigureCurve } from "../core/figure/readCurve.ts";
import { readDelimited } from "../core/formats/delimited.ts";
import { readSheet } from "../core/formats/sheet.ts";
import { readPlainGrid } from "../core/formats/surface/readAny.ts";
import { readVtkGrid } from "../core/formats/vtk/readGrid.ts";
import { guessRoles } from "../core/intake/columnRoles.ts";
import { curveKey, guessCurveRoles, readCurves } from "../core/intake/curveImport.ts";
import { buildHistory } from "../core/intake/historyImport.ts";
import { planeGrid } from "../core/intake/planeGrid.ts";
import { buildQuantities, guessRowRoles, readQuantityRows } from "../core/intake/quantityImport.ts";
import { PLAIN_SAID } from "../core/intake/saidForTests.ts";
import { stationCurves } from "../core/intake/stationCurves.ts";
import { lookAtSurface } from "../core/intake/surfaceLook.ts";
import { readSurface } from "../core/intake/surfaceRecord.ts";
import { averageRecord } from "../core/method/averaging/record.ts";
import { bestPoint } from "../core/method/comparison/bestPoint.ts";
import { spaceField } from "../core/monitors/space/spaceFields.ts";
import { described } from "../core/problems/describe/catalogue.ts";
import { wakeField } from "../core/problems/truth/wake.ts";
import { CURTAIN_TRUTH, curtainRuns } from "./curtain.ts";
import { beforeTheLeaf, blockFile, LEAF, leafFile, leafRuns, leafTruth, placeOn, TAPS, tapsFile, YARD_BLOCK, ZONES } from "./doorLeaf.ts";
import { FAN_TRUTH, fanQuantity, fanRuns, operatingFile, rigFile } from "./fan.ts";
import { clicks, PAPER_FIGURE, paperCalibration, paperCurve } from "./paperFigure.ts";
import { curvesFile, stepVelocity, TRAVERSE_TRUTH, traverseFile } from "./traverse.ts";
import { lintelError, wakeRuns } from "./wakeGrid.ts";

function historyOf(text: string, quantities: { key: string; name: string; symbol: string }[]) {
  const read = readSheet(text);
  if (!read.ok) throw new Error(read.problems[0].sentence);
  const built = buildHistory(read.sheet, guessRoles(read.sheet, quantities));
  if (!built.ok) throw new Error(built.problems[0].sentence);
  return built.history;
}

describe("the truth behind the made-up records is found again", () => {
  test("door curtain: mean, start-up, swaying frequency, unequal steps of the fine run", () => {
    const runs = curtainRuns();
    runs.forEach((r, k) => {
      const history = historyOf(r.history, [
        { key: "s", name: "sealing efficiency", symbol: "s" },
        { key: "f", name: "force of the jet", symbol: "f" },
      ]);
      for (const [key, truth] of [
        ["s", r.truth.sealing],
        ["f", r.truth.forceN],
      ] as const) {
        const a = averageRecord(history.time ?? [], history.quantities[key], { abscissa: "s" });
        expect(Math.abs(a.mean - truth)).toBeLessThan(1.2 * a.expanded);
        expect(a.expanded / truth).toBeLessThan(0.01);
        expect(Math.abs((a.peak?.frequency ?? 0) - CURTAIN_TRUTH.swayHz)).toBeLessThan(0.1 * a.resolution);
        expect(Math.abs((a.peak?.amplitude ?? 0) / truth / CURTAIN_TRUTH.swayShare - (key === "s" ? 1 : 0.6))).toBeLessThan(0.15);
        expect(a.cutAt).toBeGreaterThan(CURTAIN_TRUTH.startUpS);
        expect(a.evenlySampled).toBe(k < 2);
        // The sway counts as correlation in one estimate of the uncertainty and averages out in the other.
        expect(a.doubts.filter((d) => d.rule !== "batches-disagree")).toEqual([]);
      }
    });
  });
  test("evaporator fan: every mean within its stated uncertainty, or nearly", () => {
    let outside = 0;
    for (const r of fanRuns()) {
      const history = historyOf(
        r.history,
        FAN_TRUTH.flowsM3S.map((q) => ({ key: `q${q}`, name: fanQuantity(q), symbol: "" })),
      );
      FAN_TRUTH.flowsM3S.forEach((q, j) => {
        const a = averageRecord(history.iteration, history.quantities[`q${q}`], { abscissa: "iterations" });
        if (Math.abs(a.mean - r.truthPa[j]) > a.expanded) outside++;
        expect(Math.abs(a.mean / r.truthPa[j] - 1)).toBeLessThan(0.01);
      });
    }
    expect(outside).toBeLessThanOrEqual(2);
  });
  test("traverse behind the step: the slipped point alone is proposed, repeats are averaged, the truth lies within what is stated", () => {
    const read = readSheet(traverseFile());
    if (!read.ok) throw new Error(read.problems[0].sentence);
    const roles = guessCurveRoles(read.sheet);
    expect(roles).toEqual(["abscissa", "value", "value", "uncertainty"]);
    const built = readCurves(read.sheet, { roles: ["station", "abscissa", "value", "uncertainty"], units: ["1", "mm", "m/s", "m/s"], coverage: 2 });
    if (!built.ok) throw new Error(built.problems[0].sentence);
    const { slipped, stations, speedMS, calibration } = TRAVERSE_TRUTH;
    expect(built.curves.map((c) => c.station)).toEqual([...stations]);
    expect(built.curves.map((c) => c.repeats)).toEqual([2, 2, 2, 2]);
    expect(built.curves.flatMap((c) => c.proposals.map((p) => [c.station, c.abscissa[p.index]]))).toEqual([[slipped.station, slipped.heightMm]]);
    const all = built.curves.flatMap((c) =>
      c.abscissa.map((y, i) => ({ off: c.value[i] - stepVelocity(c.station ?? 0, y), u: Math.hypot(c.own?.[i] ?? 0, calibration * speedMS) })),
    );
    const inside = all.filter((p) => Math.abs(p.off) <= 2 * p.u).length;
    expect(inside / all.length).toBeGreaterThan(0.9);
  });
  test("curves of the codes: at the traverse's stations, Lintel nearer the truth than Purlin, finer nearer than coarse", () => {
    const far = (code: "Lintel" | "Purlin", h: number) => {
      const read = readSheet(curvesFile(code, h));
      if (!read.ok) throw new Error(read.problems[0].sentence);
      const [station, y, u] = read.sheet.columns;
      return Math.max(...[...u].map((v, i) => Math.abs(v - stepVelocity(station[i], y[i]))));
    };
    expect(far("Lintel", 0.01)).toBeLessThan(far("Lintel", 0.02));
    expect(far("Lintel", 0.01)).toBeLessThan(0.6 * far("Purlin", 0.01));
  });
  test("the scanned figure: clicks along its curves give the printed velocities within what is stated", () => {
    for (const { station } of PAPER_FIGURE.curves) {
      const read = readFigureCurve(
        paperCalibration(),
        clicks(station, station).map((at) => ({ at })),
        { reading: 0.7, calibration: 0.5 },
        2,
      );
      read.abscissa.forEach((mm, i) => {
        const slope = (paperCurve(station, mm + 1) - paperCurve(station, mm - 1)) / 2;
        expect(Math.abs(read.value[i] - paperCurve(station, mm))).toBeLessThan(2 * Math.hypot(read.own[i], read.shared[i], slope * read.place[i]));
      });
    }
  });
  test("the fan's operating curves: the rig's best point lies within its stated uncertainty of the truth, Purlin's further off than Lintel's", () => {
    const read = readSheet(rigFile());
    if (!read.ok) throw new Error(read.problems[0].sentence);
    const built = readCurves(read.sheet, {
      roles: ["abscissa", "value", "uncertainty", "value", "uncertainty", "value", "uncertainty"],
      units: ["m^3/s", "Pa", "Pa", "W", "W", "1", "1"],
      coverage: 2,
    });
    if (!built.ok) throw new Error(built.problems[0].sentence);
    const [rise, power, eta] = built.curves;
    // Efficiency is what the other two make of it.
    for (const [i, q] of eta.abscissa.entries()) expect((q * rise.value[i]) / power.value[i] / eta.value[i]).toBeCloseTo(1, 3);
    const best = bestPoint({ xs: eta.abscissa, ys: eta.value, us: eta.own });
    expect(Math.abs((best?.at ?? 0) - 0.98)).toBeLessThan(2 * (best?.uAt ?? 0));
    const top = (code: "Lintel" | "Purlin") => {
      const sheet = readSheet(operatingFile(code, 0.004));
      if (!sheet.ok) throw new Error(sheet.problems[0].sentence);
      return bestPoint({ xs: [...sheet.sheet.columns[0]], ys: [...sheet.sheet.columns[3]] })?.at ?? 0;
    };
    expect(top("Lintel")).toBeCloseTo(1, 3);
    expect(top("Purlin")).toBeCloseTo(1.03, 3);
  });
});

describe("Lintel in the wake of the strips", () => {
  const wake = Object.fromEntries(described("wake").parameters.map((k) => [k.key, k.preset])) as never as Parameters<typeof wakeRuns>[0];
  const runs = wakeRuns(wake);
  const grids = runs.map((r) => readVtkGrid(new TextEncoder().encode(r.grid)));
  test("the fields are the exact ones with the error that is told, on cells that fill the box", () => {
    const { u, p } = wakeField(wake);
    runs.forEach((r, k) => {
      const plane = planeGrid(grids[k]);
      expect(plane.mesh.cellCount).toBe(r.cells);
      expect(plane.mesh.volumeM2.reduce((s, v) => s + v, 0)).toBeCloseTo(r.areaM2, 12);
      const spacing = Math.sqrt(r.areaM2 / r.cells);
      for (let c = 0; c < r.cells; c += 37) {
        const at = [plane.mesh.centroidM[2 * c], plane.mesh.centroidM[2 * c + 1]] as const;
        const [du, dp] = [0, 2].map((a) => grids[k].onCells[a].values[c]);
        expect(du).toBeCloseTo(u(...at) + wake.velocityMS * lintelError(wake, spacing, ...at), 10);
        expect(dp).toBeCloseTo(p(...at) / wake.densityKgM3, 10);
      }
    });
  });
  test("the norms beside them fall at order two, and are read as what they are", () => {
    const [coarse, , fine] = runs.map((r) => {
      const read = readDelimited(r.quantities);
      if (!read.ok) throw new Error(read.problems[0].sentence);
      const rows = readQuantityRows(read.table);
      if (!rows.ok) throw new Error(rows.problems[0].sentence);
      const built = buildQuantities(
        rows.rows,
        guessRowRoles(rows.rows, described("wake").quantities as never),
        described("wake").quantities as never,
      );
      if (!built.ok) throw new Error(built.problems[0].sentence);
      return { norms: built.errorNorms[0], spacing: Math.sqrt(r.areaM2 / r.cells) };
    });
    expect(Math.log(coarse.norms.l2 / fine.norms.l2) / Math.log(coarse.spacing / fine.spacing)).toBeCloseTo(2, 1);
    expect(fine.norms.field).toBe("u");
  });
});

describe("the loading door's leaf", () => {
  const leaf = stitch(readPlainGrid(new TextEncoder().encode(leafFile())));
  const zones = Object.keys(ZONES) as (keyof typeof ZONES)[];
  const read = (zonesNamed: readonly (keyof typeof ZONES)[]) =>
    readSurface(
      leaf,
      {
        length: "mm",
        arrays: lookAtSurface(leaf).arrays.filter((a) => a.role !== "ignore"),
        recipe: { division: { by: "array", array: "zone" }, names: zonesNamed.map((name) => ({ at: placeOn(name), name })), splits: [] },
        normals: "out of the body",
        shearOn: "wall",
        referencePa: 0,
        aboutM: [0, 0, 0],
        links: [],
      },
      1e-3,
      LEAF.densityKgM3,
    ).found;
  test("its surface gives the force and moment of the divergence theorem, but for the face that is missing and the spacing", () => {
    const { patches, unnamed } = read(zones);
    const { force, hingeMoment } = leafTruth();
    const total = [0, 1, 2].map((d) => patches.reduce((s, p) => s + p.pressureForce[d] + p.shearForce[d], 0));
    const scale = Math.hypot(...force);
    expect(Math.abs(total[0] - force[0]) / scale).toBeLessThan(5e-4);
    expect(Math.abs(total[1] - force[1]) / scale).toBeLessThan(5e-4);
    const moment = patches.reduce((s, p) => s + p.pressureMoment[2] + p.shearMoment[2], 0);
    expect(moment / hingeMoment).toBeCloseTo(1, 3);
    expect(unnamed).toBeUndefined();
    expect(patches.map((p) => p.name)).toEqual(zones);
  });
  test("what was planted is found: the upper rim turned over, a face missing below, a piece without a name", () => {
    const look = lookAtSurface(leaf);
    expect(look.pieces.map((p) => [p.called, p.faces]).sort()).toEqual([
      ["zone 1", 24 * 36],
      ["zone 2", 24 * 42],
      ["zone 3", 2 * 2 * 42 + 2 * 2 * 24 - 1],
      ["zone 4", 24 * 6],
    ]);
    expect(look.turned.faces).toBe(48);
    expect(look.rims.map((r) => r.edges)).toEqual([4]);
    expect(look.rims[0].at[2]).toBe(0);
    expect(read(["windward", "lee", "rims"]).unnamed).toMatchObject({ faces: 144, pieces: 1, area: expect.closeTo(1.2 * 0.3, 9) });
    expect(look.arrays.map((a) => [a.name, a.on, a.role, a.unit])).toEqual([
      ["p (Pa)", "points", "pressure", "Pa"],
      ["wall shear (Pa)", "cells", "shear", "Pa"],
      ["zone", "cells", "ignore", ""],
    ]);
  });
  test("the taps stand beside cuts of the surface at their heights, and the blocked one is told from the rest", () => {
    const read = readSheet(tapsFile());
    if (!read.ok) throw new Error(read.problems[0].sentence);
    const taps = readCurves(read.sheet, { roles: ["station", "abscissa", "value", "value"], units: ["m", "m", "Pa", "Pa"], coverage: 2 });
    if (!taps.ok) throw new Error(taps.problems[0].sentence);
    const arrays = lookAtSurface(leaf).arrays.filter((a) => a.role !== "ignore");
    const said = {
      ...PLAIN_SAID,
      arrays,
      recipe: { division: { by: "parts" }, names: [], splits: [] },
    } as const;
    const asked = {
      across: 2,
      along: 0,
      stations: TAPS.heightsM.map((z) => 1000 * z),
      of: "pressure",
      abscissa: "axis",
      names: ["p lee", "p windward"],
    } as const;
    const { curves } = stationCurves(leaf, said, 1e-3, LEAF.densityKgM3, asked);
    expect(taps.curves.map((c) => curveKey(c.name)).sort()).toEqual(curves.map((c) => c.key).sort());
    const off = taps.curves.flatMap((t) => {
      const c = curves.find((x) => x.key === curveKey(t.name)) as (typeof curves)[number];
      return t.abscissa.map((x, k) => {
        const i = c.abscissa.values.findIndex((v) => v >= x);
        const [a, b] = [c.abscissa.values[i - 1], c.abscissa.values[i]];
        const between = c.value.values[i - 1] + ((c.value.values[i] - c.value.values[i - 1]) * (x - a)) / (b - a);
        return { name: t.name, off: Math.abs(between - t.value[k]) };
      });
    });
    expect(off).toHaveLength(78);
    expect(off.filter((o) => o.off > 1).map((o) => o.name)).toEqual(["p windward at z 1.05"]);
    const proposed = taps.curves.flatMap((c) => c.proposals.map((p) => [c.name, p.index]));
    expect(proposed).toContainEqual(["p windward at z 1.05", 7]);
  });
  test("the block before it is sound but for the cells about the points that slipped; cut, it gives the exact velocity", () => {
    const block = readVtkGrid(new TextEncoder().encode(blockFile()));
    const q = gridQuality(block);
    expect([q.inverted, q.open, q.crowded]).toEqual([[], [], 0]);
    const beyond = q.metrics.filter((m) => m.beyond > 0);
    expect(beyond.length).toBeGreaterThan(0);
    const near = (at: readonly number[]) =>
      YARD_BLOCK.slipped.some(([i, j, k]) => Math.hypot(at[0] - i / 10, at[1] - (j - 10) / 10, at[2] - k / 10) < 0.25);
    for (const m of beyond) {
      expect(m.beyond).toBeLessThan(32);
      expect(near(m.cells[0].at)).toBe(true);
    }
    // The pressure is that of a flow without loss: pressure and dynamic pressure add up to nothing everywhere.
    const roles = [
      { name: "U (m/s)", on: "cells", role: "velocity", unit: "m/s" },
      { name: "p (Pa)", on: "cells", role: "pressure", unit: "Pa" },
    ] as const;
    const total = spaceField(new SlopeWork(block), { unitM: 1, densityKgM3: LEAF.densityKgM3, arrays: roles }, { kind: "totalPressure" });
    for (const v of total.array.values) expect(v).toBeCloseTo(0, 9);
    const cut = cutGrid(block, acrossAxis(2, 0.7));
    const plane = planeGrid(cut);
    expect(plane.mesh.cellCount).toBe(120);
    for (let c = 0; c < 120; c += 17) {
      const [x, y] = [plane.mesh.centroidM[2 * c], plane.mesh.centroidM[2 * c + 1]];
      const at = plane.cellOf[c];
      beforeTheLeaf(x, y).forEach((v, d) => {
        expect(cut.onCells[0].values[3 * at + d]).toBeCloseTo(v, 9);
      });
    }
  });
  test("what Lintel reported falls towards the truth at order two", () => {
    const { hingeMoment } = leafTruth();
    const [coarse, , fine] = leafRuns().map((r) => ({ error: r.reported.moment / hingeMoment - 1, spacing: (LEAF.volumeM3 / r.cells) ** (1 / 3) }));
    expect(Math.log(coarse.error / fine.error) / Math.log(coarse.spacing / fine.spacing)).toBeCloseTo(2, 6);
    expect(fine.error).toBeLessThan(1e-3);
  });
});
