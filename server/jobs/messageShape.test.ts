import { describe, expect, test } from "vitest";
import { BenchJob } from "../../core/problems/build/benchJob.ts";
import { packCheckpoint } from "../../core/solver/checkpointFile.ts";
import { packMesh } from "../../core/solver/meshFile.ts";
import { fromPlain, toPlain } from "../../core/solver/wire.ts";
import { readMessage } from "./messageShape.ts";
import type { WorkerMessage } from "./messages.ts";
import { CHECKPOINT, done, READY, rowsFrom, SETTINGS } from "./playerForTests.ts";

const wired = (m: unknown) => fromPlain(JSON.parse(JSON.stringify(toPlain(m))));

describe("what a node tells", () => {
  test("everything a real run tells passes as it is", () => {
    const mesh = { nx: 6, ny: 6, gradingX: { kind: "uniform" }, gradingY: { kind: "uniform" } };
    const parameters = { pressureGradientPaM: -0.05, gapM: 0.01, lengthM: 0.02, densityKgM3: 1.2, viscosityPaS: 1.8e-5, wallSpeedMS: 0 };
    const job = new BenchJob({ ...SETTINGS, parameters, mesh } as never);
    const rows: number[][] = [];
    while (job.underWay) rows.push(job.step() ?? []);
    const told: WorkerMessage[] = [
      { type: "ready", columns: [...job.columns], starts: job.starts, fieldNames: job.fieldNames },
      { type: "alive" },
      { type: "climbing", cells: 9, left: 1 },
      { type: "rows", from: 0, rows: [...rows, [1, Number.NaN, Number.POSITIVE_INFINITY]], starts: job.starts },
      { type: "status", status: job.status(1) },
      { type: "field", iteration: 1, name: "u", values: job.field(0) },
      { type: "checkpoint", data: packCheckpoint(job.save()) },
      { type: "paused", seconds: 1 },
      { type: "failed", state: "diverged", sentence: "x", seconds: 0 },
      {
        type: "done",
        state: "done",
        result: job.result(),
        fields: job.simulation.fields().map((f) => ({ ...f })),
        mesh: packMesh(job.mesh),
        seconds: 2,
      },
    ];
    for (const m of told) {
      const plain = wired(m);
      expect(readMessage(plain)).toEqual(plain);
    }
  });
  test.each<[string, unknown]>([
    ["a kind nobody knows", { type: "gossip" }],
    ["rows without a number", { type: "rows", rows: [[1]], starts: {} }],
    ["rows with a negative number", rowsFrom(-1, [1])],
    ["rows of words", { ...rowsFrom(0), rows: [["1"]] }],
    ["a column that is none", { ...READY, columns: [{ role: "mood", key: "x" }] }],
    ["a result that is a text", { ...done(), result: "fine" }],
    ["a result without quantities", { ...done(), result: { profiles: [], errorNorms: [] } }],
    ["a quantity that is a list", { ...done(), result: { quantities: { q: [1] }, profiles: [], errorNorms: [] } }],
    ["flows that are no list", { ...done(), result: { quantities: {}, profiles: [], errorNorms: [], balance: { boundaries: 7 } } }],
    ["a field as plain numbers", { ...done(), fields: [{ name: "u", unit: "", values: [1, 2] }] }],
    ["a field of single precision where the end is told", { ...done(), fields: [{ name: "u", unit: "", values: Float32Array.of(1) }] }],
    ["a state that is a number", { type: "checkpoint", data: 7 }],
    ["a time that is none", { type: "paused", seconds: "1" }],
    ["an end in a state of its own", { ...done(), state: "perfect" }],
    ["a sentence without end", { type: "failed", state: "failed", sentence: "x".repeat(5000), seconds: 0 }],
  ])("%s is refused", (_name, m) => {
    expect(() => readMessage(m)).toThrow();
  });
  test("a state passes with all it holds", () =>
    expect(readMessage({ type: "checkpoint", data: CHECKPOINT })).toEqual({ type: "checkpoint", data: CHECKPOINT }));
});
