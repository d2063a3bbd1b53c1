import { describe, expect, test } from "vitest";
import { SteadyGas } from "../../solver/gas/steadyGas.ts";
import { fromPlain, toPlain } from "../../solver/wire.ts";
import { presetFormulas, presetParameters } from "../describe/catalogue.ts";
import { BenchJob } from "./benchJob.ts";
import { benchProblem } from "./catalogue.ts";
import { type Changes, misfits, run, settingsOf } from "./problemRunsForTests.ts";

/** What every problem of the catalogue has to hold, on a small and short version of it. */
export function describeProblem(id: string, small: Changes = {}): void {
  const tight: Changes =
    benchProblem(id).physicsWords.time === "steady" && id !== "contoured-duct" && id !== "corner"
      ? { ...small, numerics: { dropOrders: 11, maxIterations: 600 } }
      : small;
  describe(id, () => {
    test("closes its balances and, held halfway and written to a file, goes on to the same bits", () => {
      const whole = run(id, tight);
      expect(whole.simulation.state).toMatch(/^reached/);
      const found = misfits(whole.simulation.balance());
      expect(found.mass ?? 0).toBeLessThan(whole.simulation instanceof SteadyGas ? 1e-6 : 1e-9);
      for (const value of Object.values(found)) expect(value).toBeLessThan(tight === small ? 1e-4 : 1e-6);
      const half = Math.floor(whole.rows.length / 2);
      const before = new BenchJob(settingsOf(id, tight));
      while (before.rows.length < half) before.step();
      const file = JSON.stringify(toPlain(before.save()));
      const after = new BenchJob(settingsOf(id, tight));
      after.restore(fromPlain(JSON.parse(file)) as never);
      while (after.underWay) after.step();
      expect(after.rows).toEqual(whole.rows);
      after.simulation.fields().forEach((f, k) => {
        expect(Buffer.from(f.values.buffer).equals(Buffer.from(whole.simulation.fields()[k].values.buffer))).toBe(true);
      });
    });
    test("delivers the quantities it names, and a yardstick for its presets", () => {
      const p = benchProblem(id);
      const yardsticks = p.yardsticks(presetParameters(p), presetFormulas(p));
      const known = new Set(p.quantities.map((q) => q.key));
      expect(yardsticks.some((y) => y.validity.inside)).toBe(true);
      for (const y of yardsticks) for (const v of y.values) expect(known.has(v.quantityKey) && Number.isFinite(v.value)).toBe(true);
      for (const q of p.similarity ?? []) expect(Number.isFinite(q.solve(q.preset, presetParameters(p)))).toBe(true);
    });
  });
}
