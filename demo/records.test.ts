import { describe, expect, test } from "vitest";
import { readSheet } from "../core/formats/sheet.ts";
import { guessRoles } from "../core/intake/columnRoles.ts";
import { buildHistory } from "../core/intake/historyImport.ts";
import { averageRecord } from "../core/method/averaging/record.ts";
import { CURTAIN_TRUTH, curtainRuns } from "./curtain.ts";
import { FAN_TRUTH, fanQuantity, fanRuns } from "./fan.ts";

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
});
