import { z } from "zod";
import { familyMembers } from "../../core/mesh/family.ts";
import { rectangleQuality } from "../../core/mesh/rectangleQuality.ts";
import { setupFingerprint } from "../../core/problems/caseSetup.ts";
import { benchProblem } from "../../core/problems/catalogue.ts";
import type { MeshSpec, RunSettings } from "../../core/problems/runSettings.ts";
import type { Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { bench } from "../jobs/bench.ts";
import { type CaseRow, findCase } from "../repositories/cases.ts";
import { enqueue, ensureMesh, findRun, insertLadder, insertRun, type RunRow, updateRun, writeSetting } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

const GradingInput = z.union([
  z.object({ kind: z.literal("uniform") }),
  z.object({ kind: z.enum(["both-ends", "low-end", "high-end"]), strength: z.number().min(0.01).max(6) }),
]);

export const FamilyInput = z.object({
  baseNx: z.number().int().min(4, "At least 4 cells.").max(512),
  baseNy: z.number().int().min(4, "At least 4 cells.").max(512),
  ratio: z.number().gt(1, "The ratio must be above 1.").max(4),
  count: z.number().int().min(1).max(6),
  gradingX: GradingInput,
  gradingY: GradingInput,
});
export type FamilyInput = z.infer<typeof FamilyInput>;

const MOST_CELLS = 300_000;

/** Queues one run on each mesh of a family; the settings are frozen with their hash. */
export async function startFamily(opened: Store, caseId: string, input: FamilyInput, wake = true): Promise<RunRow[]> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  if (row.setup.problemId === null) throw new UseCaseError("invalid", "This case has no bench problem; bring in results instead.");
  const members = familyMembers(input.baseNx, input.baseNy, input.ratio, input.count);
  const largest = members[members.length - 1];
  if (largest.cells > MOST_CELLS)
    throw new UseCaseError(
      "invalid",
      `The finest mesh would have ${largest.cells} cells; ${MOST_CELLS} is the most the bench takes. Lower the base, the ratio or the count.`,
    );
  const runs: RunRow[] = [];
  for (const m of members) runs.push(await queueRun(opened, row, { nx: m.nx, ny: m.ny, gradingX: input.gradingX, gradingY: input.gradingY }));
  await insertLadder(
    opened.db,
    caseId,
    runs.map((r) => r.id),
  );
  if (wake) await (await bench()).turn();
  return runs;
}

async function queueRun(opened: Store, row: CaseRow, mesh: MeshSpec): Promise<RunRow> {
  const problem = benchProblem(row.setup.problemId ?? "");
  const spec = problem.rectangle(row.setup.parameters, mesh);
  const quality = rectangleQuality(spec);
  const graded = mesh.gradingX.kind !== "uniform" || mesh.gradingY.kind !== "uniform";
  const label = `${mesh.nx} × ${mesh.ny}${graded ? " graded" : ""}`;
  const made = await ensureMesh(opened.db, {
    caseId: row.id,
    label,
    spec: mesh,
    cells: quality.cells,
    spacing: quality.spacingM,
    dimension: 2,
    quality,
    hash: hashOf(spec),
  });
  const { problemId, parameters, numerics } = row.setup;
  const settings: RunSettings = { problemId, parameters, numerics, mesh, code: "bench" };
  const run = await insertRun(opened.db, {
    caseId: row.id,
    meshId: made.id,
    label,
    origin: "bench",
    code: "bench",
    state: "waiting",
    settings,
    settingsHash: hashOf(settings),
    setupHash: hashOf(setupFingerprint(row.setup)),
  });
  await enqueue(opened.db, run.id);
  return run;
}

/** Queues a new run with the frozen settings of an old one; the old one stays as it is. */
export async function runAgain(opened: Store, runId: string): Promise<RunRow> {
  const old = await findRun(opened.db, runId);
  if (!old) throw new UseCaseError("not-found", "There is no such run.");
  if (old.origin !== "bench") throw new UseCaseError("invalid", "A brought-in run cannot be run here.");
  const { caseId, meshId, label, code, settings, settingsHash, setupHash } = old;
  const run = await insertRun(opened.db, { caseId, meshId, label, origin: "bench", code, state: "waiting", settings, settingsHash, setupHash });
  await enqueue(opened.db, run.id);
  await (await bench()).turn();
  return run;
}

export async function stopRun(runId: string): Promise<void> {
  await (await bench()).stop(runId);
}

export async function deleteRun(opened: Store, runId: string): Promise<void> {
  const run = await findRun(opened.db, runId);
  if (!run) throw new UseCaseError("not-found", "There is no such run.");
  if (run.state === "running" || run.state === "waiting") throw new UseCaseError("conflict", "The run is under way; stop it first.");
  await updateRun(opened.db, runId, { deletedAt: new Date() });
}

export async function restoreRun(opened: Store, runId: string): Promise<void> {
  await updateRun(opened.db, runId, { deletedAt: null });
}

export const CoresInput = z.object({ cores: z.number().int().min(1).max(16) });

export async function setCores(opened: Store, cores: number): Promise<void> {
  await writeSetting(opened.db, "cores", cores);
  await (await bench()).turn();
}
