import { z } from "zod";
import { FormulaError, readFormula } from "../../core/manufactured/formula.ts";
import { correlationMatrix } from "../../core/method/propagation/inputs.ts";
import { FACTS } from "../../core/method/setup/facts.ts";
import { cholesky } from "../../core/numeric/cholesky.ts";
import { BENCH_PROBLEMS, benchProblem } from "../../core/problems/build/catalogue.ts";
import { type CaseSetup, DEFAULT_NUMERICS, numericsOf, PHYSICS_CHOICES, parameterSpecs, physicsOf } from "../../core/problems/describe/caseSetup.ts";
import { presetFormulas } from "../../core/problems/describe/catalogue.ts";
import { settingDifferences } from "../../core/problems/describe/runSettings.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import { LIMITERS, RIEMANN_FLUXES } from "../../core/solver/gas/gas.ts";
import { SCHEMES } from "../../core/solver/kernels/schemes.ts";
import { QUANTITY_KINDS } from "../../core/units/quantityKind.ts";
import { isUnit } from "../../core/units/units.ts";
import type { Store } from "../db/store.ts";
import {
  type CaseRow,
  findCase,
  insertCase,
  insertYardstick,
  listCases,
  listQuantities,
  listYardsticks,
  setLimit,
  updateCase,
} from "../repositories/cases.ts";
import { currentProgramme, insertProgramme, reviveProgrammeOf } from "../repositories/programmes.ts";
import { listRuns } from "../repositories/runs.ts";
import { keptAnswers } from "./assessed.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";
import { Reader, typed } from "./reader.ts";

const PhysicsInput = z.object({
  time: z.enum(PHYSICS_CHOICES.time),
  model: z.enum(PHYSICS_CHOICES.model),
  space: z.enum(PHYSICS_CHOICES.space),
  part: z.enum(PHYSICS_CHOICES.part).default("whole"),
  share: typed.default(""),
  compressible: z.boolean().default(false),
});

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
  physics: PhysicsInput.optional(),
  stated: z.object({ schemeOrder: z.enum(["", "1", "2"]), dropOrders: typed }).optional(),
  inputs: z.record(z.string().max(40), z.object({ uncertainty: typed, sensitivities: z.record(z.string().max(40), typed) })).optional(),
  correlations: z
    .array(z.object({ a: z.string().max(40), b: z.string().max(40), coefficient: typed }))
    .max(40)
    .optional(),
  formulas: z.record(z.string().max(40), z.string().max(300)).optional(),
  facts: z.record(z.string().max(40), typed).optional(),
  scheme: z.enum(SCHEMES).optional(),
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
  physics: PhysicsInput.optional(),
  quantityName: z.string().trim().max(80).optional(),
  quantityUnit: z.string().trim().max(20).optional(),
  quantityKind: z.enum(QUANTITY_KINDS).optional(),
});
export type NewCaseInput = z.infer<typeof NewCaseInput>;

/** Parameters as typed, or as their template proposes; those whose field was not touched stay what they were to the last bit. */
function readParameters(reader: Reader, problemId: string | null, given: Record<string, string>, old?: CaseSetup): Record<string, number> {
  return Object.fromEntries(
    parameterSpecs(problemId).map((s) => {
      const text = given[s.key] ?? `${s.preset} ${s.choices ? "" : s.unit}`.trim();
      const stored = { si: old?.parameters[s.key], typed: old?.typed?.[s.key] };
      return [s.key, s.choices ? reader.required(s.key, text, "", s.min, s.max) : reader.kept(s.key, text, s.unit, stored, s.min, s.max)];
    }),
  );
}

/** Facts that were typed; empty fields are not known. */
function readFacts(reader: Reader, given: Record<string, string> | undefined, old: CaseSetup): { facts?: Record<string, number> } {
  const facts: Record<string, number> = {};
  for (const spec of FACTS) {
    const field = `fact-${spec.key}`;
    const si = reader.optionalKept(field, given?.[spec.key] ?? "", spec.unit, { si: old.facts?.[spec.key], typed: old.typed?.[field] });
    if (si !== undefined) facts[spec.key] = si;
  }
  return Object.keys(facts).length ? { facts } : {};
}

/** What was modelled, with its share of the whole worked out where it is not typed. */
function readPhysics(reader: Reader, input: z.infer<typeof PhysicsInput> | undefined, old: CaseSetup["physics"]): CaseSetup["physics"] {
  if (!input) return old;
  const whole = input.part === "whole";
  const typedShare = whole ? undefined : reader.optional("share", input.share, "", 1e-6);
  if (typedShare !== undefined && !(typedShare <= 1)) reader.mistakes.share = "The share of the whole lies between 0 and 1: 0.5 for a half model.";
  if (input.part === "periodic piece" && typedShare === undefined)
    reader.mistakes.share = "Say which share of the whole the piece is, such as 1/12 as 0.08333.";
  const { share: _share, ...rest } = input;
  return { ...rest, share: whole ? 1 : (typedShare ?? 0.5) };
}

function readStated(reader: Reader, input: QuestionInput["stated"]): { stated?: CaseSetup["stated"] } {
  if (!input) return {};
  const dropOrders = reader.optional("statedDrop", input.dropOrders, "", 0.1);
  const stated = {
    ...(input.schemeOrder ? { schemeOrder: Number(input.schemeOrder) as 1 | 2 } : {}),
    ...(dropOrders === undefined ? {} : { dropOrders }),
  };
  return Object.keys(stated).length ? { stated } : {};
}

/** How well conditions are known, and what quantities make of it. */
function readInputs(
  reader: Reader,
  input: QuestionInput["inputs"],
  problemId: string | null,
  parameters: Record<string, number>,
): Pick<CaseSetup, "inputs"> {
  const out: Record<string, { uncertainty: number; sensitivities: Record<string, number> }> = {};
  for (const s of parameterSpecs(problemId)) {
    const given = input?.[s.key];
    const uncertainty = given && reader.uncertainty(`input-${s.key}`, given.uncertainty, s.unit, parameters[s.key]);
    if (!given || uncertainty === undefined) continue;
    const sensitivities = Object.entries(given.sensitivities).flatMap(([key, text]) => {
      const value = reader.optional(`sensitivity-${s.key}-${key}`, text, "");
      return value === undefined ? [] : [[key, value] as const];
    });
    out[s.key] = { uncertainty, sensitivities: Object.fromEntries(sensitivities) };
  }
  return Object.keys(out).length ? { inputs: out } : {};
}

/** Which conditions are uncertain together; lines without a coefficient say nothing. */
function readCorrelations(reader: Reader, given: QuestionInput["correlations"], keys: readonly string[]): Pick<CaseSetup, "correlations"> {
  const seen = new Set<string>();
  const correlations = (given ?? []).flatMap(({ a, b, coefficient }, k) => {
    const field = `correlation-${k}`;
    const value = reader.optional(field, coefficient, "", -1);
    if (value === undefined) return [];
    const pair = [a, b].sort().join(" ");
    if (!keys.includes(a) || !keys.includes(b) || a === b) reader.mistakes[field] = "Choose two different conditions.";
    else if (seen.has(pair)) reader.mistakes[field] = "These two are there already.";
    else if (value > 1) reader.mistakes[field] = "A coefficient of correlation lies between -1 and 1.";
    seen.add(pair);
    return [{ between: [a, b] as const, coefficient: value }];
  });
  if (correlations.length && !Object.keys(reader.mistakes).length && !cholesky(correlationMatrix(keys, correlations)))
    reader.mistakes["correlation-0"] = "These correlations cannot hold together: two that go strongly with a third go with each other as well.";
  return correlations.length ? { correlations } : {};
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
async function checkAnswer(reader: Reader, { problemId, parameters, formulas = {} }: CaseSetup): Promise<void> {
  if (problemId === null || Object.keys(reader.mistakes).length) return;
  try {
    await keptAnswers.yardsticks({ problemId, parameters, formulas });
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    reader.mistakes.parameters = error.message;
  }
}

const FOREIGN_START = PhysicsInput.parse({ time: "steady", model: "turbulence model", space: "three-dimensional" });

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
    physics: input.problemId === null ? readPhysics(reader, input.physics ?? FOREIGN_START, undefined) : undefined,
    ...readFormulas(reader, input.problemId, input.formulas),
    numerics: input.problemId === null ? { ...DEFAULT_NUMERICS, dropOrders: 6 } : numericsOf(input.problemId),
  };
  await checkAnswer(reader, setup);
  const problem = input.problemId === null ? undefined : benchProblem(input.problemId);
  if (input.quantityUnit && !isUnit(input.quantityUnit)) reader.mistakes.quantityUnit = `"${input.quantityUnit}" is no unit that is known here.`;
  const quantities: readonly QuantitySpec[] = problem?.quantities ?? [
    { key: "q1", name: input.quantityName || "first quantity", symbol: "q1", unit: input.quantityUnit || "1", limit: 0.05, kind: input.quantityKind },
  ];
  reader.done();
  const programme = (await currentProgramme(opened.db)) ?? (await insertProgramme(opened.db, "Programme"));
  return insertCase(
    opened.db,
    {
      programmeId: programme.id,
      title: input.title,
      kind: problem?.kind ?? "measured",
      purpose: input.purpose || problem?.tests || "",
      setup: { ...setup, typed: reader.typed },
    },
    // What the programme asks of a quantity of that name comes before what its template proposes.
    quantities.map((q) => ({ ...q, limit: programme.limits.find((l) => l.quantity.toLowerCase() === q.name.toLowerCase())?.limit ?? q.limit })),
  );
}

/** What a question would be once it is saved. @throws {UseCaseError} naming every entry that cannot be used */
export async function readQuestion(
  row: CaseRow,
  input: QuestionInput,
): Promise<{ setup: CaseSetup; limits: (readonly [string, number])[]; said: string[] }> {
  const reader = new Reader();
  // What this page does not ask for stays; facts that are not typed are no longer known.
  const old = row.setup;
  const { facts: _facts, stated: _stated, inputs: _inputs, correlations: _correlations, ...kept } = old;
  const stored = (field: string, si: number | undefined) => ({ si, typed: old.typed?.[field] });
  const parameters = readParameters(reader, old.problemId, input.parameters, old);
  const setup: CaseSetup = {
    ...kept,
    parameters,
    fluid: {
      name: input.fluidName,
      temperatureK: reader.optionalKept("temperature", input.temperature, "K", stored("temperature", old.fluid.temperatureK), 1),
      pressurePa: reader.optionalKept("pressure", input.pressure, "Pa", stored("pressure", old.fluid.pressurePa), 1),
    },
    physics: old.problemId === null ? readPhysics(reader, input.physics, old.physics) : undefined,
    reynoldsTyped: reader.optionalKept("reynolds", input.reynolds, "", stored("reynolds", old.reynoldsTyped), 0),
    kinematicViscosityM2S: reader.optionalKept(
      "kinematicViscosity",
      input.kinematicViscosity,
      "m^2/s",
      stored("kinematicViscosity", old.kinematicViscosityM2S),
      0,
    ),
    ...readFormulas(reader, row.setup.problemId, input.formulas),
    ...readFacts(reader, input.facts, old),
    ...(old.problemId === null ? readStated(reader, input.stated) : {}),
    ...readInputs(reader, input.inputs, old.problemId, parameters),
    ...readCorrelations(
      reader,
      input.correlations,
      parameterSpecs(old.problemId).map((s) => s.key),
    ),
    numerics: {
      ...row.setup.numerics,
      ...(input.scheme ? { scheme: input.scheme } : {}),
      ...(input.riemannFlux ? { riemannFlux: input.riemannFlux } : {}),
      ...(input.limiter ? { limiter: input.limiter } : {}),
      ...(input.courant ? { courant: reader.required("courant", input.courant, "", 0.01, 100) } : {}),
      ...(input.maxIterations ? { maxIterations: Math.round(reader.required("maxIterations", input.maxIterations, "", 1, 200_000)) } : {}),
      dropOrders: reader.required("dropOrders", input.dropOrders, "", 1, 14),
    },
  };
  await checkAnswer(reader, setup);
  const limits = Object.entries(input.limits).map(([key, text]) => [key, reader.required(`limit-${key}`, text, "", 1e-12, 10)] as const);
  reader.done();
  return { setup: { ...setup, typed: reader.typed }, limits, said: reader.said };
}

/** Saves the question of a case. @returns what was taken for granted, to be said */
export async function saveQuestion(opened: Store, caseId: string, input: QuestionInput): Promise<{ said: string[] }> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const { setup, limits, said } = await readQuestion(row, input);
  await opened.db.transaction(async (tx) => {
    await updateCase(tx, caseId, { title: input.title, purpose: input.purpose, setup });
    for (const [key, limit] of limits) await setLimit(tx, caseId, key, limit);
  });
  return { said };
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
    const {
      answers: _answers,
      monitors: _monitors,
      derived: _derived,
      typed: _typed,
      settlements: _settlements,
      credibility: _credibility,
      copiedFrom: _copied,
      ...setup
    } = row.setup;
    return setup;
  });
  return settingDifferences(left, right);
}

export const AnswerInput = z.object({ rule: z.string().max(120), reason: z.string().trim().min(1, "Say why it is accepted.").max(600) });

/** Keeps why a remark on the set-up is accepted, with the words it was made in and the date. */
export async function answerRemark(opened: Store, caseId: string, input: z.infer<typeof AnswerInput>, at = new Date()): Promise<void> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const { assessment } = await openCase(opened, caseId);
  const remark = assessment.setup.remarks.find((r) => r.rule === input.rule && !r.answered);
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
  /** percent a percent, by the key of a condition it was worked out from */
  answers: z.record(z.string().max(40), typed).optional(),
});

/** Adds a single value with its 95 % uncertainty as a yardstick. */
export async function createYardstick(opened: Store, caseId: string, input: z.infer<typeof YardstickInput>): Promise<void> {
  const q = (await listQuantities(opened.db, caseId)).find((x) => x.key === input.quantityKey);
  if (!q) throw new UseCaseError("invalid", "Choose the quantity it belongs to.");
  const reader = new Reader();
  const unit = q.unit === "1" ? "" : q.unit;
  const value = reader.required("value", input.value, unit);
  const u95 = reader.uncertainty("uncertainty", input.uncertainty, unit, value);
  const answers = Object.fromEntries(
    Object.entries(input.answers ?? {}).flatMap(([key, text]) => {
      const answer = reader.optional(`answer-${key}`, text, "", Number.NEGATIVE_INFINITY);
      return answer ? [[key, answer] as const] : [];
    }),
  );
  reader.done();
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
        ...(Object.keys(answers).length ? { answers } : {}),
      },
    ],
    profiles: [],
  });
}

export const CopyCaseInput = z.object({ title: z.string().trim().min(1, "A case needs a name.").max(120) });

/**
 * A case like another one: its set-up, quantities, typed yardsticks and mesh rule. Runs, findings, reports, answers and what was said of error
 * sources and decided about the ladders stay behind: they were of the other case. Turbulence settings taken over are asked about.
 */
export async function copyCase(opened: Store, caseId: string, input: z.infer<typeof CopyCaseInput>): Promise<CaseRow> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const { answers: _answers, settlements: _settlements, studies: _studies, credibility: _credibility, ...setup } = row.setup;
  const turbulent = row.setup.problemId === null && physicsOf(row.setup).model !== "laminar";
  const facts = { ...setup.facts, ...(turbulent ? { turbulenceInherited: 1 } : {}) };
  const made = await insertCase(
    opened.db,
    {
      programmeId: row.programmeId,
      title: input.title,
      kind: row.kind,
      level: row.level,
      tags: row.tags,
      purpose: row.purpose,
      setup: { ...setup, ...(Object.keys(facts).length ? { facts } : {}), copiedFrom: row.title },
    },
    await listQuantities(opened.db, caseId),
  );
  for (const y of await listYardsticks(opened.db, caseId)) await insertYardstick(opened.db, made.id, y);
  return made;
}

export async function deleteCase(opened: Store, caseId: string): Promise<void> {
  const busy = (await listRuns(opened.db, caseId)).filter((r) => r.state === "running" || r.state === "waiting");
  if (busy.length) throw new UseCaseError("conflict", `${busy.length} of its runs are under way; stop them first.`);
  await updateCase(opened.db, caseId, { deletedAt: new Date() });
}

export async function restoreCase(opened: Store, caseId: string): Promise<void> {
  await updateCase(opened.db, caseId, { deletedAt: null });
  await reviveProgrammeOf(opened.db, caseId);
}
