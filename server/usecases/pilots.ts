import { z } from "zod";
import { sourceOf } from "../../core/assessment/budget/registry.ts";
import type { ThreeMesh } from "../../core/method/refinement/threeMesh.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import { setupFingerprint } from "../../core/problems/describe/caseSetup.ts";
import { axisPlans, nextOn, type PlannedAxis, settingsAt } from "../../core/problems/describe/ladderPlan.ts";
import { familyMesh } from "../../core/problems/describe/problem.ts";
import type { MeshSpec } from "../../core/problems/describe/runSettings.ts";
import { FINISHED } from "../../core/records/run.ts";
import type { SourceKey } from "../../core/records/settlement.ts";
import { JUDGED, nextMove, type PilotMove, type PilotPosition, type PilotRung, type Tuning } from "../../core/study/pilot.ts";
import { inOne, type Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { type CaseRow, findCase, listQuantities, updateCase } from "../repositories/cases.ts";
import { decidePilot, findPilot, insertPilot, listPilots, type PilotRow, pilotsUnderWay } from "../repositories/pilots.ts";
import { findRun, type RunRow } from "../repositories/runs.ts";
import type { CaseBook } from "./caseBook.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";
import { Reader, typed } from "./reader.ts";
import { insertPlanned, MOST_CELLS, planRun, queue, startPoint, stopRun } from "./runs.ts";

export const PilotInput = z.object({
  quantityKey: z.string().min(1).max(40),
  /** numerical uncertainty at 95 %, such as "0.5 %" */
  target: typed,
  mostCells: z.number().int().min(16, "At least 16 cells.").max(MOST_CELLS),
  /** of computing, all runs together */
  minutes: z.number().positive().max(10_000),
});

/** Sends a case on its way to an uncertainty of one quantity; the first step is taken at once. */
export async function startPilot(opened: Store, caseId: string, input: z.infer<typeof PilotInput>): Promise<PilotRow> {
  const row = await benchCase(opened, caseId);
  const reader = new Reader();
  const target = reader.required("target", input.target, "", 1e-8, 1);
  reader.done();
  if (!(await listQuantities(opened.db, caseId)).some((q) => q.key === input.quantityKey))
    throw new UseCaseError("invalid", "There is no such quantity.");
  const made = await opened.alone(`pilot ${caseId}`, async () => {
    if ((await listPilots(opened.db, caseId)).some((p) => p.state === "under way"))
      throw new UseCaseError("conflict", "This case is on autopilot already; stop it first.");
    const { quantityKey, mostCells, minutes } = input;
    return insertPilot(opened.db, { caseId, quantityKey, target, mostCells, longestS: 60 * minutes, setupHash: setupHashOf(row) });
  });
  await advancePilot(opened, made.id);
  return (await findPilot(opened.db, made.id)) ?? made;
}

async function benchCase(opened: Store, caseId: string): Promise<CaseRow> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  if (row.setup.problemId === null) throw new UseCaseError("invalid", "This case has no bench problem: only the bench can be put on autopilot.");
  return row;
}

const setupHashOf = (row: CaseRow): string => hashOf(setupFingerprint(row.setup));

/** Ends an autopilot where it stands; the run it waits for is stopped and kept. */
export async function stopPilot(opened: Store, id: string): Promise<void> {
  for (;;) {
    const p = await findPilot(opened.db, id);
    if (!p) throw new UseCaseError("not-found", "There is no such autopilot.");
    if (p.state !== "under way") return;
    // It may take a step at this moment: then it is asked again.
    if (!(await decidePilot(opened.db, p, { state: "stopped", reason: "Stopped by hand.", endedAt: new Date() }))) continue;
    for (const run of await runsOf(opened, lastOf(p))) if (WAITED_FOR.includes(run.state)) await stopRun(run.id);
    return;
  }
}

const WAITED_FOR = ["waiting", "running", "paused"];

/** The steps that were taken last, at once: those of one reason at the end. */
function lastOf({ steps }: PilotRow): PilotRow["steps"] {
  let from = steps.length;
  while (from > 0 && steps[from - 1].why === steps[steps.length - 1].why) from--;
  return steps.slice(from);
}

async function runsOf(opened: Store, steps: PilotRow["steps"]): Promise<RunRow[]> {
  return (await Promise.all(steps.map((s) => findRun(opened.db, s.runId)))).flatMap((r) => r ?? []);
}

/** Takes the next step of an autopilot whose last run has ended; does nothing while it has not. */
export async function advancePilot(opened: Store, id: string): Promise<void> {
  const p = await findPilot(opened.db, id);
  if (p?.state !== "under way") return;
  const last = await runsOf(opened, lastOf(p));
  if (last.some((run) => !run.deletedAt && WAITED_FOR.includes(run.state))) return;
  const row = await findCase(opened.db, p.caseId);
  if (!row || row.deletedAt) return finish(opened, p, { kind: "end", reached: false, reason: "The case was deleted." });
  if (setupHashOf(row) !== p.setupHash)
    return finish(opened, p, { kind: "end", reached: false, reason: "The question was changed on the way: the runs so far answer another one." });
  const book = await openCase(opened, p.caseId);
  const position = positionOf(p, book, last);
  const quantity = book.evidence.quantities.find((q) => q.key === p.quantityKey);
  if (!quantity) return finish(opened, p, { kind: "end", reached: false, reason: "The quantity was taken off the case." });
  const move = nextMove({ quantity: quantity.name, target: p.target, mostCells: p.mostCells, longestS: p.longestS }, position);
  if (move.kind === "end") return finish(opened, p, move);
  if (move.kind === "retune") return retune(opened, p, row, book, move);
  await take(opened, p, row, book, move);
}

async function finish(opened: Store, p: PilotRow, move: Extract<PilotMove, { kind: "end" }>): Promise<void> {
  await decidePilot(opened.db, p, { state: move.reached ? "reached" : "ended", reason: move.reason, endedAt: new Date() });
}

/** Queues the run of a step and writes the step down, both or neither. */
async function take(opened: Store, p: PilotRow, row: CaseRow, book: CaseBook, move: Extract<PilotMove, { kind: "refine" }>): Promise<void> {
  const [finest] = rungRuns(book);
  const mesh = finest
    ? { ...(finest.settings.mesh as MeshSpec), nx: move.nx, ny: move.ny }
    : familyMesh(benchProblem(row.setup.problemId ?? "").family, move.nx, move.ny);
  // Steady flows go on from the coarser result; what changes in time begins anew.
  const steady = benchProblem(row.setup.problemId ?? "").physicsWords.time === "steady";
  const startFrom = finest && steady ? await startPoint(opened, finest.id, finest.id).catch(() => undefined) : undefined;
  const planned = await planRun(row, mesh, startFrom ? { startFrom } : {});
  await queue(
    await unlessOvertaken(opened, async (tx) => {
      const made = await insertPlanned(tx, [planned]);
      const steps = [...p.steps, { runId: made[0].id, label: made[0].label, why: move.why }];
      if (!(await decidePilot(tx.db, p, { steps }))) throw new Overtaken();
      return made;
    }),
  );
}

/** Changes a setting of the case and queues its finest meshes anew, all of it or nothing. Steady runs go on from their own results. */
async function retune(opened: Store, p: PilotRow, row: CaseRow, book: CaseBook, move: Extract<PilotMove, { kind: "retune" }>): Promise<void> {
  const { axis, next } = move.tuning;
  const again = rungRuns(book).slice(0, JUDGED).reverse();
  const wanted = again.map((r) => ({ run: r, ...settingsAt(row.setup, axis, next, r.settings.mesh as MeshSpec) }));
  const [{ parameters, numerics }] = wanted;
  const setup = {
    ...row.setup,
    parameters: { ...row.setup.parameters, ...parameters },
    numerics: { ...row.setup.numerics, ...numerics },
    // What was typed no longer stands.
    typed: Object.fromEntries(Object.entries(row.setup.typed ?? {}).filter(([key]) => !(key in { ...parameters, ...numerics }))),
  };
  const changed = { ...row, setup };
  const planned = await Promise.all(
    wanted.map(async ({ run, mesh }) => {
      const startFrom = axis === "tolerance" ? await startPoint(opened, run.id, run.id).catch(() => undefined) : undefined;
      return planRun(changed, mesh, startFrom ? { startFrom } : {});
    }),
  );
  await queue(
    await unlessOvertaken(opened, async (tx) => {
      await updateCase(tx.db, row.id, { setup });
      const made = await insertPlanned(tx, planned);
      const steps = [...p.steps, ...made.map((r) => ({ runId: r.id, label: r.label, why: move.why }))];
      if (!(await decidePilot(tx.db, p, { steps, setupHash: setupHashOf(changed) }))) throw new Overtaken();
      return made;
    }),
  );
}

async function unlessOvertaken(opened: Store, work: (tx: Store) => Promise<RunRow[]>): Promise<RunRow[]> {
  return inOne(opened, work).catch((error) => {
    if (error instanceof Overtaken) return [];
    throw error;
  });
}

/** Somebody else took the step first: nothing of this one is kept. */
class Overtaken extends Error {}

/** Runs of the family of the present set-up, finest first. */
const rungRuns = ({ runs, assessment }: CaseBook): RunRow[] =>
  assessment.stale ? [] : assessment.ladder.flatMap((id) => runs.find((r) => r.id === id && r.origin === "bench") ?? []);

function positionOf(p: PilotRow, book: CaseBook, last: readonly RunRow[]): PilotPosition {
  const { assessment: a, evidence: e } = book;
  const { problemId } = book.row.setup;
  const { family } = benchProblem(problemId ?? "");
  const rungs = rungRuns(book).map((r): PilotRung => {
    const { nx, ny } = r.settings.mesh as MeshSpec;
    return { nx, ny, cells: book.meshes.find((m) => m.id === r.meshId)?.cells ?? nx * ny, seconds: r.seconds ?? 0 };
  });
  const [refined] = a.refinement.flatMap((r) => (r.key === p.quantityKey && r.result ? [r.result] : []));
  const budget = a.rules.find((r) => r.quantityKey === p.quantityKey);
  const settling = a.settling[0];
  const lost = last.find((r) => r.deletedAt || !FINISHED.includes(r.state));
  const own = new Set(p.steps.map((s) => s.runId));
  const spent = book.runs.filter((r) => own.has(r.id)).reduce((s, r) => s + (r.seconds ?? 0), 0);
  return {
    rungs,
    start: { nx: Math.max(4, Math.round(family.baseNx / 2)), ny: Math.max(4, Math.round(family.baseNy / 2)) },
    failure: lost && (lost.failure ?? "it was taken away."),
    settled: rungs.length ? (settling?.state ?? "none") : "none",
    unsettled: settling?.remarks.find((r) => r.severity === "stop")?.sentence.replace(/\.$/, ""),
    mesh: refined && meshOf(refined, e.formalOrder),
    sources: (budget?.sources ?? []).flatMap((s) =>
      s.relative !== undefined && sourceOf(s.key).group === "numerical" ? [{ name: s.name, relative: s.relative }] : [],
    ),
    spentS: spent,
    tunings: tuningsOf(book),
  };
}

/** which source of the rule each axis makes smaller, and what a run costs then */
const SOURCE_OF: Readonly<Record<PlannedAxis, SourceKey>> = { tolerance: "iteration", "time-step": "time-step", domain: "domain" };
const COST_OF: Readonly<Record<PlannedAxis, number>> = { tolerance: 0.5, "time-step": 2, domain: 1.5 };

function tuningsOf({ row }: CaseBook): Tuning[] {
  return axisPlans(row.setup).flatMap((plan) => {
    const next = nextOn(plan);
    if (next === undefined) return [];
    const { axis, own } = plan;
    const label = axis === "time-step" ? "Courant number" : plan.label;
    const cells = axis === "domain" ? next / own : 1;
    return [{ source: sourceOf(SOURCE_OF[axis]).name, axis, label, own, next, cost: COST_OF[axis], cells }];
  });
}

/** Class and order in use; a set without an observed order is counted on the least there can be. */
function meshOf(r: ThreeMesh, formalOrder: number): NonNullable<PilotPosition["mesh"]> {
  if (r.kind === "monotone") return { kind: r.kind, order: r.orderUsed };
  return { kind: r.kind, order: r.kind === "degenerate" ? formalOrder : 1 };
}

/** Takes the next step of every autopilot whose last run has ended. One that cannot be taken ends its autopilot with the reason. */
export async function advancePilots(opened: Store): Promise<void> {
  for (const p of await pilotsUnderWay(opened.db))
    await advancePilot(opened, p.id).catch(async (error: Error) => {
      if (!(error instanceof UseCaseError || error instanceof RangeError)) throw error;
      await finish(opened, p, { kind: "end", reached: false, reason: `The next step cannot be taken: ${error.message}` });
    });
}
