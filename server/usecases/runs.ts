import { z } from "zod";
import { significant } from "../../core/formatting/number.ts";
import { familyMembers } from "../../core/mesh/family.ts";
import { CELL_SHAPES } from "../../core/mesh/shapes.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import type { BenchProblem } from "../../core/problems/build/problem.ts";
import { setupFingerprint } from "../../core/problems/describe/caseSetup.ts";
import { cellCount, familyMesh, type SimilaritySpec } from "../../core/problems/describe/problem.ts";
import type { MeshSpec, Numerics, RunSettings, StartPoint } from "../../core/problems/describe/runSettings.ts";
import { LIMITERS, RIEMANN_FLUXES } from "../../core/solver/gas/gas.ts";
import { SCHEMES } from "../../core/solver/kernels/schemes.ts";
import { parseQuantity } from "../../core/units/units.ts";
import type { SweepAxis } from "../db/schema.ts";
import { inOne, type Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import { hashOf } from "../hash.ts";
import { bench } from "../jobs/bench.ts";
import { follower } from "../jobs/follower.ts";
import { type CaseRow, findCase, updateCase } from "../repositories/cases.ts";
import {
  ensureMesh,
  findMesh,
  findRun,
  finishedWithMeshes,
  insertRun,
  insertSweep,
  listFields,
  type RunRow,
  runsInState,
  updateRun,
  updateSweep,
  writeSetting,
} from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

const GradingInput = z.union([
  z.object({ kind: z.literal("uniform") }),
  z.object({ kind: z.enum(["both-ends", "low-end", "high-end"]), strength: z.number().min(0.01).max(6) }),
]);

export const FamilyInput = z.object({
  baseNx: z.number().int().min(2, "At least 2 cells.").max(2000),
  baseNy: z.number().int().min(2, "At least 2 cells.").max(2000),
  ratio: z.number().gt(1, "The ratio must be above 1.").max(4),
  count: z.number().int().min(1).max(6),
  gradingX: GradingInput,
  gradingY: GradingInput,
  shape: z.enum(CELL_SHAPES).optional(),
});
export type FamilyInput = z.infer<typeof FamilyInput>;

export const MOST_CELLS = 300_000;
/** moments of a run whose fields are kept */
const MOST_MOMENTS = 200;

/** Queues one run on each mesh of a family; the settings are frozen with their hash. */
export async function startFamily(opened: Store, caseId: string, input: FamilyInput, wake = true): Promise<RunRow[]> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  if (row.setup.problemId === null) throw new UseCaseError("invalid", "This case has no bench problem; bring in results instead.");
  const { gradingX, gradingY, shape } = input;
  const specOf = (nx: number, ny: number): MeshSpec => ({ nx, ny, gradingX, gradingY, ...(shape ? { shape } : {}) });
  const problem = benchProblem(row.setup.problemId);
  const members = familyMembers(input.baseNx, input.baseNy, input.ratio, input.count, (nx, ny) =>
    cellCount(problem, row.setup.parameters, specOf(nx, ny)),
  );
  const largest = members[members.length - 1];
  if (largest.cells > MOST_CELLS)
    throw new UseCaseError(
      "invalid",
      `The finest mesh would have ${largest.cells} cells; ${MOST_CELLS} is the most the bench takes. Lower the base, the ratio or the count.`,
    );
  const planned = await Promise.all(members.map((m) => planRun(row, specOf(m.nx, m.ny))));
  const runs = await inOne(opened, async (tx) => {
    await updateCase(tx.db, caseId, { setup: { ...row.setup, family: input } });
    return insertPlanned(tx, planned);
  });
  if (wake) await queue(runs);
  return runs;
}

/** Queues the family of a case again as it was last planned, with the present set-up. */
export async function runFamilyAgain(opened: Store, caseId: string): Promise<RunRow[]> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  if (!row.setup.family) throw new UseCaseError("conflict", "No family was planned here yet; plan one on the Meshes page.");
  return startFamily(opened, caseId, FamilyInput.parse(row.setup.family));
}

/** Differences of one run from what its case says. */
interface RunChanges {
  readonly parameters?: Readonly<Record<string, number>>;
  readonly numerics?: Partial<Numerics>;
  readonly priority?: number;
  readonly sweepId?: string;
  readonly label?: string;
  readonly startFrom?: StartPoint;
}

/** A run and its mesh before they are stored. */
export interface PlannedRun {
  readonly mesh: Parameters<typeof ensureMesh>[1];
  readonly run: Omit<Parameters<typeof insertRun>[1], "meshId">;
}

/** What a run of a case on a mesh will be. @throws {RangeError} the set-up has no answer, or the mesh cannot be made */
export async function planRun(row: CaseRow, mesh: MeshSpec, changes: RunChanges = {}): Promise<PlannedRun> {
  const { problemId, formulas } = row.setup;
  const parameters = { ...row.setup.parameters, ...changes.parameters };
  const numerics = { ...row.setup.numerics, ...changes.numerics };
  const quality = await desk().ask("planMesh", { problemId: problemId ?? "", parameters, formulas: formulas ?? {}, mesh });
  const label = meshLabel(mesh);
  const { monitors } = row.setup;
  const settings: RunSettings = {
    problemId,
    parameters,
    ...(formulas ? { formulas } : {}),
    numerics,
    mesh,
    code: "bench",
    ...(monitors?.length ? { monitors } : {}),
    ...(changes.startFrom ? { startFrom: changes.startFrom } : {}),
  };
  return {
    mesh: {
      caseId: row.id,
      label,
      spec: mesh,
      cells: quality.cells,
      spacing: quality.spacingM,
      dimension: 2,
      quality,
      hash: hashOf({ problemId, mesh, size: quality.totalVolumeM2 }),
    },
    run: {
      caseId: row.id,
      label: changes.label ?? label,
      origin: "bench",
      code: "bench",
      state: "waiting",
      settings,
      settingsHash: hashOf(settings),
      setupHash: hashOf(setupFingerprint({ ...row.setup, parameters, numerics })),
      priority: changes.priority ?? 0,
      sweepId: changes.sweepId,
    },
  };
}

export async function insertPlanned(tx: Store, planned: readonly PlannedRun[]): Promise<RunRow[]> {
  const runs: RunRow[] = [];
  // Within one transaction the database's clock stands still: runs keep the order they were planned in by a millisecond each.
  const now = Date.now();
  for (const { mesh, run } of planned)
    runs.push(await insertRun(tx.db, { ...run, meshId: (await ensureMesh(tx.db, mesh)).id, createdAt: new Date(now + runs.length) }));
  return runs;
}

/** Puts stored runs into the queue, and starts what there is room for. */
export async function queue(runs: readonly RunRow[]): Promise<void> {
  for (const r of runs) await (await bench()).put(r, false);
  await (await bench()).turn();
}

/** "64 × 48 smooth": counts and what sets the mesh apart from plain rows. */
function meshLabel(mesh: MeshSpec): string {
  const graded = mesh.gradingX.kind !== "uniform" || mesh.gradingY.kind !== "uniform";
  const shape = mesh.shape && mesh.shape !== "rows" ? ` ${mesh.shape}` : "";
  return `${mesh.nx} × ${mesh.ny}${graded ? " graded" : ""}${shape}`;
}

/** Queues a new run with the frozen settings of an old one; the old one stays as it is. */
export async function runAgain(opened: Store, runId: string): Promise<RunRow> {
  const old = await findRun(opened.db, runId);
  if (!old) throw new UseCaseError("not-found", "There is no such run.");
  if (old.origin !== "bench") throw new UseCaseError("invalid", "A brought-in run cannot be run here.");
  const { caseId, meshId, label, code, settings, settingsHash, setupHash, sweepId, priority } = old;
  const run = await insertRun(opened.db, {
    caseId,
    meshId,
    label,
    origin: "bench",
    code,
    state: "waiting",
    settings,
    settingsHash,
    setupHash,
    sweepId,
    priority,
  });
  await (await bench()).put(run);
  return run;
}

export const CopyInput = z.object({
  nx: z.number().int().min(2, "At least 2 cells.").max(2000),
  ny: z.number().int().min(2, "At least 2 cells.").max(2000),
  shape: z.enum(CELL_SHAPES).optional(),
  scheme: z.enum(SCHEMES),
  riemannFlux: z.enum(RIEMANN_FLUXES).optional(),
  limiter: z.enum(LIMITERS).optional(),
  courant: z.number().positive().max(100).optional(),
  dropOrders: z.number().min(1).max(14),
  maxIterations: z.number().int().min(1).max(200_000),
  longestS: z.number().positive().max(1e6).optional(),
  onceSteady: z.boolean().optional(),
  /** of a run in time: at how many even steps of it the fields are kept */
  moments: z.number().int().min(0).max(MOST_MOMENTS).optional(),
  priority: z.number().int().min(-9).max(9),
  /** run whose result this one starts from */
  startFrom: z.uuid().optional(),
});

const SAME_SIZE = 0.02;

/** Finished runs whose result fills the same room as a run's mesh, coarse or fine, steady or not: it may start from any of them. */
export async function startChoices(opened: Store, runId: string): Promise<{ id: string; label: string; cells: number }[]> {
  const run = await findRun(opened.db, runId);
  if (run?.origin !== "bench") return [];
  const own = run.meshId ? await findMesh(opened.db, run.meshId) : undefined;
  if (!own?.quality) return [];
  const area = own.quality.totalVolumeM2;
  const { compressible, space } = benchProblem(run.settings.problemId ?? "").physicsWords;
  const found = await finishedWithMeshes(opened.db);
  return found
    .flatMap((r) => (r.quality ? [{ ...r, quality: r.quality }] : []))
    .filter((r) => r.settings.problemId !== null && Math.abs(r.quality.totalVolumeM2 / area - 1) < SAME_SIZE)
    .filter((r) => {
      const words = benchProblem(r.settings.problemId ?? "").physicsWords;
      return words.compressible === compressible && words.space === space;
    })
    .map((r) => ({ id: r.id, label: `${r.caseTitle}: ${r.label}`, cells: r.quality.cells }));
}

export async function startPoint(opened: Store, runId: string, fromId: string): Promise<StartPoint> {
  const from = await findRun(opened.db, fromId);
  const fields = await listFields(opened.db, fromId);
  const offered = (await startChoices(opened, runId)).find((c) => c.id === fromId);
  if (!from?.settings.problemId || !offered || !fields.length) throw new UseCaseError("invalid", "That run's result does not fit this one.");
  const { problemId, parameters, mesh } = from.settings;
  const { label } = offered;
  return {
    label,
    problemId,
    parameters,
    mesh: mesh as MeshSpec,
    fields: fields.map(({ name, unit, blob }) => ({ name, unit, hash: blob })),
    ...(fields[0].mesh ? { meshHash: fields[0].mesh } : {}),
  };
}

/** @throws {UseCaseError} the run knows no time */
function momentsOf(problemId: string | null, moments: number): number {
  if (benchProblem(problemId ?? "").physicsWords.time !== "steady") return moments;
  throw new UseCaseError("invalid", "A steady run has no moments: its fields are kept at the end.", { moments: "Only a run in time has moments." });
}

/** Queues a run like another one with other cells, numerics or stop rules. */
export async function copyRun(opened: Store, runId: string, input: z.infer<typeof CopyInput>, wake = true): Promise<RunRow> {
  const old = await findRun(opened.db, runId);
  if (old?.origin !== "bench") throw new UseCaseError("not-found", "There is no such run of the bench.");
  const row = await findCase(opened.db, old.caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const { nx, ny, shape, priority, longestS, onceSteady, startFrom, moments, ...rest } = input;
  const numerics = { ...rest, ...(moments ? { moments: momentsOf(old.settings.problemId, moments) } : { moments: undefined }) };
  const mesh: MeshSpec = { ...(old.settings.mesh as MeshSpec), nx, ny, ...(shape ? { shape } : {}) };
  if (nx * ny > MOST_CELLS) throw new UseCaseError("invalid", `${nx * ny} cells are more than the bench takes (${MOST_CELLS}).`);
  const planned = await planRun(row, mesh, {
    parameters: old.settings.parameters,
    numerics: { ...numerics, ...(longestS !== undefined || onceSteady ? { stop: { longestS, onceSteady } } : { stop: undefined }) },
    priority,
    ...(startFrom ? { startFrom: await startPoint(opened, runId, startFrom) } : {}),
    sweepId: old.sweepId ?? undefined,
    label: old.sweepId ? old.label : undefined,
  });
  const runs = await inOne(opened, (tx) => insertPlanned(tx, [planned]));
  if (wake) await queue(runs);
  return runs[0];
}

const AxisInput = z.object({ key: z.string().max(40), values: z.array(z.string().max(60)).min(2, "A sweep needs at least two values.").max(12) });

export const SweepInput = z.object({
  axes: z.array(AxisInput).min(1).max(2),
  nx: z.number().int().min(2).max(2000),
  ny: z.number().int().min(2).max(2000),
  priority: z.number().int().min(-9).max(9).default(0),
});

/** Queues one run for every value of one parameter, or every pair of two, on one mesh. */
export async function startSweep(opened: Store, caseId: string, input: z.infer<typeof SweepInput>) {
  const row = await findCase(opened.db, caseId);
  if (row?.setup.problemId == null) throw new UseCaseError("invalid", "Only cases of the bench can be swept.");
  const problem = benchProblem(row.setup.problemId);
  const mistakes: Record<string, string> = {};
  const axes: SweepAxis[] = input.axes.map((axis, i) => {
    const spec = problem.parameters.find((s) => s.key === axis.key);
    const number = problem.similarity?.find((s) => s.key === axis.key);
    if (!spec && !number) throw new UseCaseError("invalid", `There is no parameter "${axis.key}".`);
    const unit = spec?.unit ?? "";
    const values = axis.values.map((text) => {
      const parsed = parseQuantity(text, unit);
      if (!parsed.ok) mistakes[`axis-${i}`] = parsed.sentence;
      else if (spec && !(parsed.si >= spec.min && parsed.si <= spec.max))
        mistakes[`axis-${i}`] = `${text} is outside ${spec.min} to ${spec.max} ${unit}.`;
      return parsed.ok ? parsed.si : Number.NaN;
    });
    return { key: axis.key, label: spec?.label ?? number?.label ?? axis.key, unit, values };
  });
  if (Object.keys(mistakes).length) throw new UseCaseError("invalid", Object.values(mistakes)[0], mistakes);
  if (axes.length === 2 && axes[0].key === axes[1].key) throw new UseCaseError("invalid", "Choose two different parameters.");
  if (input.nx * input.ny > MOST_CELLS)
    throw new UseCaseError("invalid", `${input.nx * input.ny} cells are more than the bench takes (${MOST_CELLS}).`);
  const label = axes.map((a) => a.label).join(" and ");
  const { family } = problem;
  const mesh = familyMesh(family, input.nx, input.ny);
  const second = axes[1]?.values ?? [undefined];
  const planned = await Promise.all(
    axes[0].values.flatMap((a) =>
      second.map((b) => {
        const parameters = applyAxes(problem, row.setup.parameters, axes, b === undefined ? [a] : [a, b]);
        const name = b === undefined ? significant(a, 5) : `${significant(a, 5)}, ${significant(b, 5)}`;
        return planRun(row, mesh, { parameters, priority: input.priority, label: name });
      }),
    ),
  );
  return queueSet(opened, { caseId, axes, label }, planned);
}

/** Stores a set of runs, whole or not at all, and puts it into the queue. */
export async function queueSet(opened: Store, set: Parameters<typeof insertSweep>[1], planned: readonly PlannedRun[]) {
  const { sweep, runs } = await inOne(opened, async (tx) => {
    const made = await insertSweep(tx.db, set);
    return {
      sweep: made,
      runs: await insertPlanned(
        tx,
        planned.map((p) => ({ ...p, run: { ...p.run, sweepId: made.id } })),
      ),
    };
  });
  await queue(runs);
  return sweep;
}

/** Parameters at one point of a sweep; a similarity number sets the parameter it stands for. */
function applyAxes(
  problem: BenchProblem,
  base: Readonly<Record<string, number>>,
  axes: readonly SweepAxis[],
  at: readonly number[],
): Record<string, number> {
  const p: Record<string, number> = { ...base };
  const numbers: [SimilaritySpec, number][] = [];
  axes.forEach((axis, i) => {
    const number = problem.similarity?.find((s) => s.key === axis.key);
    if (number) numbers.push([number, at[i]]);
    else p[axis.key] = at[i];
  });
  for (const [number, value] of numbers) p[number.sets] = number.solve(value, p);
  return p;
}

export async function deleteSweep(opened: Store, sweepId: string): Promise<void> {
  const own = (await runsInState(opened.db, ["running", "waiting", "paused"])).filter((r) => r.sweepId === sweepId);
  for (const r of own) await (await bench()).stop(r.id);
  await updateSweep(opened.db, sweepId, { deletedAt: new Date() });
}

export const PriorityInput = z.object({ priority: z.number().int().min(-9).max(9) });

/** Changes when a waiting run is taken. */
export async function setPriority(opened: Store, runId: string, priority: number): Promise<void> {
  await updateRun(opened.db, runId, { priority });
  await (await bench()).turn();
}

export const FieldInput = z.object({ name: z.string().max(40) });

export async function stopRun(runId: string): Promise<void> {
  if (await (await follower()).finish(runId)) return;
  await (await bench()).stop(runId);
}

export async function deleteRun(opened: Store, runId: string): Promise<void> {
  const run = await findRun(opened.db, runId);
  if (!run) throw new UseCaseError("not-found", "There is no such run.");
  if (["running", "waiting", "paused", "followed"].includes(run.state)) throw new UseCaseError("conflict", "The run is under way; stop it first.");
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
