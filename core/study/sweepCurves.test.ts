import { describe, expect, test } from "vitest";
import type { SweepRuns } from "../records/sweepCurve.ts";
import { placesNotRun, sweepCurves } from "./sweepCurves.ts";

const quantities = [
  { key: "cd", name: "drag coefficient", unit: "1" },
  { key: "st", name: "Strouhal number", unit: "1" },
] as unknown as Parameters<typeof sweepCurves>[1];
const axis = { key: "reynolds", label: "Reynolds number", unit: "1" };
const mesh = (n: number) => ({ label: `${n} × ${n}`, nx: n, ny: n, spacing: 1 / n });
/** Second-order error on a known curve. */
const cd = (re: number, n: number) => 2 + 30 / re + (5 * re) / 100 / n ** 2;
const sweep = (n: number, at: readonly number[]): SweepRuns => ({
  axis,
  mesh: mesh(n),
  points: at.map((re) => ({ at: re, quantities: { cd: cd(re, n) } })),
});

describe("sweeps as curves", () => {
  test("the finest mesh is the curve, rising whatever was run first; two sweeps on one mesh are one curve", () => {
    const [curve, ...others] = sweepCurves([sweep(16, [20, 40, 80]), sweep(32, [80, 20]), sweep(32, [40])], quantities, 2);
    // Nothing delivered a Strouhal number.
    expect(others).toEqual([]);
    expect(curve.profile.key).toBe("sweep-reynolds-cd");
    expect(curve.profile.abscissa).toEqual({ name: "Reynolds number", unit: "1", values: [20, 40, 80] });
    expect(curve.profile.value.values).toEqual([20, 40, 80].map((re) => cd(re, 32)));
    expect(curve.mesh.nx).toBe(32);
  });

  test("two meshes tell three times the error that the order leaves, at the places both have", () => {
    const [curve] = sweepCurves([sweep(16, [20, 40, 160]), sweep(32, [20, 40, 80])], quantities, 2);
    expect(curve.band?.at).toEqual([20, 40]);
    curve.band?.band.forEach((u, k) => {
      // The fine mesh's error is what is added to the known curve.
      expect(u).toBeCloseTo(3 * ((5 * [20, 40][k]) / 100 / 32 ** 2), 12);
    });
    expect(sweepCurves([sweep(32, [20, 40])], quantities, 2)[0].band).toBeUndefined();
    // One place in common is no band along a curve.
    expect(sweepCurves([sweep(16, [20]), sweep(32, [20, 40])], quantities, 2)[0].band).toBeUndefined();
  });

  test("a place that was run again has its later value; a single place is no curve, and the coarser mesh that has two is", () => {
    const again: SweepRuns = { ...sweep(32, []), points: [{ at: 20 * (1 + 1e-12), quantities: { cd: 7 } }] };
    expect(sweepCurves([sweep(32, [20, 40]), again], quantities, 2)[0].profile.value.values[0]).toBe(7);
    expect(sweepCurves([sweep(64, [20]), sweep(32, [20, 40])], quantities, 2)[0].mesh.nx).toBe(32);
    expect(sweepCurves([sweep(64, [20])], quantities, 2)).toEqual([]);
    const gone: SweepRuns = {
      ...sweep(32, [20, 40]),
      points: [
        { at: 20, quantities: { cd: Number.NaN } },
        { at: 40, quantities: {} },
      ],
    };
    expect(sweepCurves([gone], quantities, 2)).toEqual([]);
  });

  test("places of a yardstick that were not run, once each and rising", () => {
    expect(placesNotRun([400, 100, 100, 1000], [100 * (1 + 1e-12), 400 * 1.001])).toEqual([400, 1000]);
    expect(placesNotRun([0, 1], [0])).toEqual([1]);
  });

  test("of other codes every run has a mesh of its own: those within a tenth of a spacing are one, and each code has its curve", () => {
    const brought = (code: string, n: number, at: number): SweepRuns => ({
      axis,
      code,
      mesh: { label: `${code} ${at}`, spacing: 1 / n },
      points: [{ at, quantities: { cd: cd(at, n) } }],
    });
    const lintel = [
      brought("Lintel", 32, 20),
      brought("Lintel", 32.5, 40),
      brought("Lintel", 31, 80),
      brought("Lintel", 16, 20),
      brought("Lintel", 16.2, 40),
    ];
    const [first, second] = sweepCurves([...lintel, brought("Purlin", 40, 20), brought("Purlin", 40, 40)], quantities, 2);
    expect([first.code, first.id, first.profile.abscissa.values]).toEqual(["Lintel", "sweep-reynolds-cd Lintel", [20, 40, 80]]);
    expect(first.band?.at).toEqual([20, 40]);
    expect([second.code, second.profile.key, second.profile.abscissa.values]).toEqual(["Purlin", "sweep-reynolds-cd", [20, 40]]);
    expect(first.mesh.nx).toBeUndefined();
  });
});
