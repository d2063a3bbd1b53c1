import { z } from "zod";
import { derivedSet } from "../../core/assessment/derived/derivedQuantities.ts";
import { DerivedError } from "../../core/method/propagation/derived.ts";
import { derivedFields } from "../../core/monitors/derived.ts";
import { fluidOfRun } from "../../core/monitors/fieldNames.ts";
import { Moment, MonitorError, monitorUnit, readMonitor } from "../../core/monitors/monitor.ts";
import { BOUNDARY_TAKES, LINE_TAKES, VOLUME_TAKES } from "../../core/monitors/takes.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import type { CaseSetup } from "../../core/problems/describe/caseSetup.ts";
import { familyMesh } from "../../core/problems/describe/problem.ts";
import { QUANTITY_KINDS, type QuantityKind } from "../../core/units/quantityKind.ts";
import { isUnit } from "../../core/units/units.ts";
import type { Store } from "../db/store.ts";
import { addQuantity, findCase, listQuantities, markQuantity, quantityKeys, setKind, updateCase } from "../repositories/cases.ts";
import { formulaInputs } from "./evidenceParts.ts";
import { UseCaseError } from "./failure.ts";
import { Reader, typed } from "./reader.ts";

const kind = z.enum(QUANTITY_KINDS).optional();

export const QuantityInput = z.object({
  name: z.string().trim().min(1, "Name the quantity.").max(80),
  unit: z.string().trim().max(20),
  limit: typed,
  kind,
});

export const KindInput = z.object({ kind: z.enum(QUANTITY_KINDS) });

/** States what a quantity of one's own is; of a template's it is known. */
export async function chooseKind(opened: Store, caseId: string, key: string, kind: QuantityKind): Promise<void> {
  await ownQuantity(opened, caseId, key, "A template's own quantity is what it is.");
  await setKind(opened.db, caseId, key, kind);
}

/** Adds a quantity to a case whose results are brought in. */
export async function createQuantity(opened: Store, caseId: string, input: z.infer<typeof QuantityInput>): Promise<void> {
  const existing = await listQuantities(opened.db, caseId);
  const reader = new Reader();
  const limit = reader.required("limit", input.limit, "", 1e-12, 10);
  if (!isUnit(input.unit)) reader.mistakes.unit = `"${input.unit}" is no unit.`;
  reader.done();
  const key = await freeKey(opened, caseId, "q");
  await addQuantity(opened.db, caseId, { key, name: input.name, symbol: key, unit: input.unit || "1", limit, kind: input.kind }, existing.length);
}

/** "q3": a key no quantity of the case has or ever had. */
async function freeKey(opened: Store, caseId: string, letter: string): Promise<string> {
  const taken = await quantityKeys(opened.db, caseId);
  let n = 1;
  while (taken.includes(`${letter}${n}`)) n++;
  return `${letter}${n}`;
}

const pointM = z.tuple([z.number(), z.number()]);
const fieldKey = z.string().trim().min(1).max(60);

const MonitorInput = z.discriminatedUnion("on", [
  z.object({ on: z.literal("point"), field: fieldKey, at: pointM }),
  z.object({ on: z.literal("line"), field: fieldKey, from: pointM, to: pointM, take: z.enum(LINE_TAKES) }),
  z.object({ on: z.literal("volume"), field: fieldKey, take: z.enum(VOLUME_TAKES) }),
  z.object({ on: z.literal("boundary"), boundary: z.string().min(1).max(60), take: z.enum(BOUNDARY_TAKES), carried: z.string().max(60).optional() }),
]);

export const NewMonitorInput = z.object({ name: z.string().trim().min(1, "Name the quantity.").max(80), limit: typed, monitor: MonitorInput, kind });

/** A small trial of a case's problem: what can be watched on it. */
function trial(setup: CaseSetup) {
  const problem = benchProblem(setup.problemId ?? "");
  const { family } = problem;
  const mesh = problem.mesh(setup.parameters, familyMesh(family, family.baseNx, family.baseNy));
  return problem.simulate(setup.parameters, mesh, setup.numerics, setup.formulas ?? {});
}

/** Fields, boundaries and extent a new monitor of a case can ask for. */
export async function monitorChoices(opened: Store, caseId: string) {
  const row = await findCase(opened.db, caseId);
  if (row?.setup.problemId == null) throw new UseCaseError("invalid", "Only cases of the bench are watched while they run.");
  const sim = trial(row.setup);
  const stored = sim.fields();
  const { mesh } = sim;
  const along = (k: 0 | 1) => mesh.pointsM.filter((_, i) => i % 2 === k);
  const range = (values: Float64Array) => [values.reduce((a, b) => Math.min(a, b)), values.reduce((a, b) => Math.max(a, b))] as const;
  return {
    fields: derivedFields(mesh, stored, fluidOfRun(row.setup.parameters)).map(({ key, name, unit }) => ({ key, name, unit })),
    carried: stored.map((f) => f.name).filter((name) => !["u", "v", "p", "density"].includes(name)),
    boundaries: mesh.boundaries.map((b) => b.name),
    extentM: [range(along(0)), range(along(1))] as const,
  };
}

/** Adds a quantity that every later run of the case watches. */
export async function createMonitor(opened: Store, caseId: string, input: z.infer<typeof NewMonitorInput>): Promise<void> {
  const row = await findCase(opened.db, caseId);
  if (row?.setup.problemId == null) throw new UseCaseError("invalid", "Only cases of the bench are watched while they run.");
  const reader = new Reader();
  const limit = reader.required("limit", input.limit, "", 1e-12, 10);
  const sim = trial(row.setup);
  const fluid = fluidOfRun(row.setup.parameters);
  try {
    readMonitor(input.monitor, new Moment(sim, fluid));
  } catch (error) {
    if (!(error instanceof MonitorError)) throw error;
    reader.mistakes.monitor = error.message;
  }
  reader.done();
  const unit = monitorUnit(input.monitor, derivedFields(sim.mesh, sim.fields(), fluid));
  const key = await freeKey(opened, caseId, "m");
  const existing = await listQuantities(opened.db, caseId);
  await opened.db.transaction(async (tx) => {
    await addQuantity(tx, caseId, { key, name: input.name, symbol: key, unit, limit, kind: input.kind }, existing.length);
    await updateCase(tx, caseId, { setup: { ...row.setup, monitors: [...(row.setup.monitors ?? []), { key, monitor: input.monitor }] } });
  });
}

/** @throws {UseCaseError} There is no such case, or the quantity is its template's. */
async function ownQuantity(opened: Store, caseId: string, key: string, refusal: string): Promise<void> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const given = row.setup.problemId === null ? [] : benchProblem(row.setup.problemId).quantities.map((q) => q.key);
  if (given.includes(key)) throw new UseCaseError("invalid", refusal);
}

/** Takes an added quantity off a case; those of its template stay. */
export async function removeQuantity(opened: Store, caseId: string, key: string, deletedAt: Date | null): Promise<void> {
  await ownQuantity(opened, caseId, key, "A template's own quantity cannot be taken off.");
  const left = await listQuantities(opened.db, caseId);
  if (deletedAt && left.length === 1 && left[0].key === key) throw new UseCaseError("invalid", "A case needs at least one quantity.");
  await markQuantity(opened.db, caseId, key, deletedAt);
}

export const DerivedInput = z.object({
  name: z.string().trim().min(1, "Name the quantity.").max(80),
  formula: z.string().trim().min(1, "Write a formula.").max(300),
  unit: z.string().trim().max(30),
  limit: typed,
  kind,
});

/** Adds a quantity that is worked out from others; refuses formulas, units and circles that do not hold. */
export async function createDerived(opened: Store, caseId: string, input: z.infer<typeof DerivedInput>): Promise<void> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const reader = new Reader();
  const limit = reader.required("limit", input.limit, "", 1e-12, 10);
  const existing = await listQuantities(opened.db, caseId);
  const key = await freeKey(opened, caseId, "d");
  const unit = input.unit || "1";
  const made = { key, formula: input.formula, unit };
  const quantity = { key, name: input.name, symbol: key, unit, limit, kind: input.kind };
  const derived = [...(row.setup.derived ?? []), made];
  try {
    if (!isUnit(unit)) reader.mistakes.unit = `"${unit}" is no unit.`;
    else
      derivedSet({ specs: derived.filter((d) => [...existing, quantity].some((q) => q.key === d.key)), inputs: formulaInputs(row.setup) }, [
        ...existing,
        quantity,
      ]);
  } catch (error) {
    if (!(error instanceof DerivedError)) throw error;
    reader.mistakes.formula = error.message;
  }
  reader.done();
  await opened.db.transaction(async (tx) => {
    await addQuantity(tx, caseId, quantity, existing.length);
    await updateCase(tx, caseId, { setup: { ...row.setup, derived } });
  });
}
