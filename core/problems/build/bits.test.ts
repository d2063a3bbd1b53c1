import { expect, test } from "vitest";
import { DEFAULT_NUMERICS } from "../describe/caseSetup.ts";
import { presetFormulas, presetParameters } from "../describe/catalogue.ts";
import { familyMesh } from "../describe/problem.ts";
import { BenchJob } from "./benchJob.ts";
import { benchProblem } from "./catalogue.ts";

/** FNV-1a over the bytes of numbers: two results with one hash are the same to the last bit. */
function hashOf(values: Iterable<number>): string {
  const bytes = new Uint8Array(Float64Array.from(values).buffer);
  let h = 0x811c9dc5;
  for (const b of bytes) h = Math.imul(h ^ b, 0x01000193) >>> 0;
  return h.toString(16).padStart(8, "0");
}

/** Record and fields of a problem after a few iterations or steps on a small mesh. */
function bitsOf(id: string, nx: number, ny: number, iterations: number, change: Readonly<Record<string, number>> = {}): string[] {
  const p = benchProblem(id);
  const job = new BenchJob({
    problemId: id,
    parameters: { ...presetParameters(p), ...change },
    formulas: presetFormulas(p),
    numerics: { ...DEFAULT_NUMERICS, ...p.numerics, maxIterations: iterations },
    mesh: familyMesh(p.family, nx, ny),
    code: "bench",
  });
  while (job.underWay) job.step();
  job.simulation.finish();
  return [hashOf(job.rows.flat()), hashOf(job.simulation.fields().flatMap((f) => [...f.values]))];
}

const RECORDED: Readonly<Record<string, readonly [record: string, fields: string]>> = {
  "lidded-box": ["fb4d4c6d", "a8308636"],
  plates: ["2a728c47", "6475a1af"],
  pipe: ["c2951ab0", "af29a7d1"],
  "pipe-entry": ["dd5095be", "bf87e7c0"],
  chamber: ["0255d004", "6fbc856d"],
  heated: ["a6268dde", "cd7696aa"],
  eddies: ["54750119", "c2620ae3"],
  "post-shedding": ["f69c86c6", "3d60db1b"],
  "shock-tube": ["c1edbe54", "a8bbb71f"],
  "travelling-vortex": ["5c597a4f", "d262fc97"],
  ramp: ["1d86d120", "7b970604"],
  "contoured-duct": ["49d41a01", "90b055a2"],
};

// A change of structure leaves every bit; a change of method does not, and then records its hashes anew.
test.each([
  ["lidded-box", 16, 16, 12, {}],
  ["plates", 8, 8, 12, { ends: 1, pressureGradientPaM: -0.1 }],
  ["pipe", 8, 8, 12, {}],
  ["pipe-entry", 16, 8, 12, {}],
  ["chamber", 12, 12, 12, {}],
  ["heated", 16, 8, 12, {}],
  ["eddies", 16, 16, 6, {}],
  ["post-shedding", 24, 8, 4, {}],
  ["shock-tube", 40, 4, 12, {}],
  ["travelling-vortex", 12, 12, 4, {}],
  ["ramp", 24, 16, 8, {}],
  ["contoured-duct", 24, 8, 8, {}],
] as const)("%s on %i × %i: the bits that were recorded", (id, nx, ny, iterations, change) => {
  expect(bitsOf(id, nx, ny, iterations, change)).toEqual(RECORDED[id]);
});
