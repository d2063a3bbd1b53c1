import { z } from "zod";
import { FormulaError, readFormula } from "../../core/manufactured/formula.ts";
import { type CaseSetup, DEFAULT_NUMERICS, numericsOf, PHYSICS_CHOICES, parameterSpecs, setupOf } from "../../core/problems/caseSetup.ts";
import { BENCH_PROBLEMS, benchProblem, presetFormulas } from "../../core/problems/catalogue.ts";
import type { QuantitySpec } from "../../core/problems/problem.ts";
import { settingDifferences } from "../../core/problems/runSettings.ts";
import { checkSetup } from "../../core/setup/checks.ts";
import { FACTS } from "../../core/setup/facts.ts";
import { LIMITERS, RIEMANN_FLUXES } from "../../core/solver/compressible/gas.ts";
import { SCHEMES } from "../../core/solver/kernels/kernels.ts";
import type { Store } from "../db/store.ts";
import {
  type CaseRow,
  findCase,
  findProgramme,
  insertCase,
  insertProgramme,
  insertYardstick,
  listCases,
  listQuantities,
  setLimit,
  updateCase,
} from "../repositories/cases.ts";
import { listRuns } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";
import { Reader, typed } from "./reader.ts";

/** What the Question page sends: every figure as typed, with its unit. */
export const QuestionInput = z.object({
  title: z.string().trim().min(1, "A case needs a name.").max(120),
  purpose: z.string().max(4000),
  parameters: z.record(z.string().max(40), typed),
  fluidName: z.string().trim().min(1, "Name the fluid.").max(60),
  temperature: typed,
  pressure: typed,
  reynolds: typed,
  kinematicViscosity: typed,
  physics: z.object({ time: z.enum(PHYSICS_CHOICES.time), model: z.enum(PHYSICS_CHOICES.model), space: z.enum(PHYSICS_CHOICES.space) }).optional(),
  formulas: z.record(z.string().max(40), z.string().max(300)).optional(),
  facts: z.record(z.string().max(40), typed).optional(),
  scheme: z.enum(SCHEMES),
  riemannFlux: z.enum(RIEMANN_FLUXES).optional(),
  limiter: z.enum(LIMITERS).optional(),
  courant: typed.optional(),
  maxIterations: typed.optional(),
  dropOrders: typed,
  limits: z.record(z.string().max(40), typed),
});
export type QuestionInput = z.infer<typeof QuestionInput>;

export const NewCaseInput = QuestionInput.pick({
  title: true,
  purpose: true,
  parameters: true,
  fluidName: true,
  temperature: true,
  pressure: true,
  formulas: true,
}).extend({
  problemId: z.enum(BENCH_PROBLEMS.map((p) => p.id)).nullable(),
  quantityName: z.string().trim().max(80).optional(),
  quantityUnit: z.string().trim().max(20).optional(),
});
export type NewCaseInput = z.infer<typeof NewCaseInput>;

function readParameters(reader: Reader, problemId: string | null, given: Record<string, string>): Record<string, number> {
  return Object.fromEntries(
    parameterSpecs(problemId).map((s) => [s.key, reader.required(s.key, given[s.key] ?? String(s.preset), s.unit, s.min, s.max)]),
  );
}

/** Facts that were typed; empty fields are not known. */
function readFacts(reader: Reader, given: Record<string, string> | undefined): { facts?: Record<string, number> } {
  const facts: Record<string, number> = {};
  for (const spec of FACTS) {
    const si = reader.optional(`fact-${spec.key}`, given?.[spec.key] ?? "", spec.unit);
    if (si !== undefined) facts[spec.key] = si;
  }
  return Object.keys(facts).length ? { facts } : {};
}

function readFormulas(reader: Reader, problemId: string | null, given: Record<string, string> | undefined): { formulas?: Record<string, string> } {
  const specs = problemId === null ? undefined : benchProblem(problemId).formulas;
  if (problemId === null || !specs) return {};
  const formulas = { ...presetFormulas(benchProblem(problemId)), ...given };
  for (const s of specs) {
    try {
      readFormula(formulas[s.key] ?? "");
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error;
      reader.mistakes[s.key] = error.message;
    }
  }
  return { formulas: Object.fromEntries(specs.map((s) => [s.key, formulas[s.key]])) };
}

/** A set-up whose exact solution does not exist is told so where it is typed. */
function checkAnswer(reader: Reader, setup: CaseSetup): void {
  if (setup.problemId === null || Object.keys(reader.mistakes).length) return;
  try {
    benchProblem(setup.problemId).yardsticks(setup.parameters, setup.formulas ?? {});
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    reader.mistakes.parameters = error.message;
  }
}

export async function createCase(opened: Store, input: NewCaseInput): Promise<CaseRow> {
  const reader = new Reader();
  const setup: CaseSetup = {
    problemId: input.problemId,
    parameters: readParameters(reader, input.problemId, input.parameters),
    fluid: {
      name: input.fluidName,
      temperatureK: reader.optional("temperature", input.temperature, "K", 1),
      pressurePa: reader.optional("pressure", input.pressure, "Pa", 1),
    },
    physics: input.problemId === null ? { time: "steady", model: "turbulence model", space: "three-dimensional" } : undefined,
    ...readFormulas(reader, input.problemId, input.formulas),
    numerics: input.problemId === null ? { ...DEFAULT_NUMERICS, dropOrders: 6 } : numericsOf(input.problemId),
  };
  checkAnswer(reader, setup);
  const problem = input.problemId === null ? undefined : benchProblem(input.problemId);
  const quantities: readonly QuantitySpec[] = problem?.quantities ?? [
    { key: "q1", name: input.quantityName || "first quantity", symbol: "q1", unit: input.quantityUnit || "1", limit: 0.05 },
  ];
  reader.done();
  const programme = (await findProgramme(opened.db)) ?? (await insertProgramme(opened.db, "Programme"));
  return insertCase(
    opened.db,
    { programmeId: programme.id, title: input.title, kind: problem?.kind ?? "measured", purpose: input.purpose || problem?.tests || "", setup },
    quantities,
  );
}

export async function saveQuestion(opened: Store, caseId: string, input: QuestionInput): Promise<void> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const reader = new Reader();
  // What this page does not ask for stays; facts that are not typed are no longer known.
  const { facts: _facts, ...kept } = row.setup;
  const setup: CaseSetup = {
    ...kept,
    parameters: readParameters(reader, row.setup.problemId, input.parameters),
    fluid: {
      name: input.fluidName,
      temperatureK: reader.optional("temperature", input.temperature, "K", 1),
      pressurePa: reader.optional("pressure", input.pressure, "Pa", 1),
    },
    physics: row.setup.problemId === null ? (input.physics ?? row.setup.physics) : undefined,
    reynoldsTyped: reader.optional("reynolds", input.reynolds, "", 0),
    kinematicViscosityM2S: reader.optional("kinematicViscosity", input.kinematicViscosity, "m^2/s", 0),
    ...readFormulas(reader, row.setup.problemId, input.formulas),
    ...readFacts(reader, input.facts),
    numerics: {
      ...row.setup.numerics,
      scheme: input.scheme,
      ...(input.riemannFlux ? { riemannFlux: input.riemannFlux } : {}),
      ...(input.limiter ? { limiter: input.limiter } : {}),
      ...(input.courant ? { courant: reader.required("courant", input.courant, "", 0.01, 100) } : {}),
      ...(input.maxIterations ? { maxIterations: Math.round(reader.required("maxIterations", input.maxIterations, "", 1, 200_000)) } : {}),
      dropOrders: reader.required("dropOrders", input.dropOrders, "", 1, 14),
    },
  };
  checkAnswer(reader, setup);
  const limits = Object.entries(input.limits).map(([key, text]) => [key, reader.required(`limit-${key}`, text, "", 1e-12, 10)] as const);
  reader.done();
  await opened.db.transaction(async (tx) => {
    await updateCase(tx, caseId, { title: input.title, purpose: input.purpose, setup });
    for (const [key, limit] of limits) await setLimit(tx, caseId, key, limit);
  });
}

/** Cases a set-up can be compared with. */
export async function otherCases(opened: Store, caseId: string): Promise<{ id: string; title: string }[]> {
  return (await listCases(opened.db)).filter((c) => c.id !== caseId).map(({ id, title }) => ({ id, title }));
}

/** What differs between the set-ups of two cases, and what each of them says of itself. */
export async function compareSetups(opened: Store, leftId: string, rightId: string) {
  const rows = [await findCase(opened.db, leftId), await findCase(opened.db, rightId)];
  const [left, right] = rows.map((row) => {
    if (!row) throw new UseCaseError("not-found", "There is no such case; it may have been deleted.");
    const { answers: _answers, monitors: _monitors, derived: _derived, ...setup } = row.setup;
    return setup;
  });
  return settingDifferences(left, right);
}

export const AnswerInput = z.object({ rule: z.string().max(60), reason: z.string().trim().min(1, "Say why it is accepted.").max(600) });

/** Keeps why a remark on the set-up is accepted, with the words it was made in and the date. */
export async function answerRemark(opened: Store, caseId: string, input: z.infer<typeof AnswerInput>, at = new Date()): Promise<void> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const remark = checkSetup(setupOf(row.setup)).find((r) => r.rule === input.rule);
  if (!remark) throw new UseCaseError("conflict", "That remark is no longer made; there is nothing to answer.");
  const answer = { ...input, sentence: remark.sentence, at: at.toISOString() };
  await updateCase(opened.db, caseId, { setup: { ...row.setup, answers: [...(row.setup.answers ?? []), answer] } });
}

/** Takes the answers to a rule back: its remark counts again. */
export async function withdrawAnswer(opened: Store, caseId: string, rule: string): Promise<void> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  await updateCase(opened.db, caseId, { setup: { ...row.setup, answers: (row.setup.answers ?? []).filter((a) => a.rule !== rule) } });
}

export const YardstickInput = z.object({
  name: z.string().trim().min(1, "Name the yardstick.").max(120),
  kind: z.enum(["measured", "table", "other-code"]),
  source: z.string().trim().min(1, "Say where it comes from: without a source it is no truth.").max(400),
  validity: z.string().trim().max(400),
  quantityKey: z.string().max(40),
  value: typed,
  uncertainty: typed,
});

/** Adds a single value with its 95 % uncertainty as a yardstick. */
export async function createYardstick(opened: Store, caseId: string, input: z.infer<typeof YardstickInput>): Promise<void> {
  const q = (await listQuantities(opened.db, caseId)).find((x) => x.key === input.quantityKey);
  if (!q) throw new UseCaseError("invalid", "Choose the quantity it belongs to.");
  const reader = new Reader();
  const unit = q.unit === "1" ? "" : q.unit;
  const value = reader.required("value", input.value, unit);
  const share = input.uncertainty.trim().endsWith("%");
  const given = share ? reader.optional("uncertainty", input.uncertainty, "", 0) : reader.optional("uncertainty", input.uncertainty, unit, 0);
  reader.done();
  const u95 = given === undefined ? undefined : share ? given * Math.abs(value) : given;
  await insertYardstick(opened.db, caseId, {
    key: "typed",
    name: input.name,
    kind: input.kind,
    source: input.source,
    validity: { sentence: input.validity || "No range of validity was stated.", inside: true },
    values: [
      {
        quantityKey: q.key,
        value,
        standardUncertainty: u95 === undefined ? undefined : u95 / 2,
        uncertaintyNote: u95 === undefined ? "none stated" : "as typed, 95 %",
      },
    ],
    profiles: [],
  });
}

export async function deleteCase(opened: Store, caseId: string): Promise<void> {
  const busy = (await listRuns(opened.db, caseId)).filter((r) => r.state === "running" || r.state === "waiting");
  if (busy.length) throw new UseCaseError("conflict", `${busy.length} of its runs are under way; stop them first.`);
  await updateCase(opened.db, caseId, { deletedAt: new Date() });
}

export async function restoreCase(opened: Store, caseId: string): Promise<void> {
  await updateCase(opened.db, caseId, { deletedAt: null });
}
