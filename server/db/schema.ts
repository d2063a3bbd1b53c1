import { boolean, doublePrecision, index, integer, jsonb, pgTable, text, timestamp, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { KeptRow } from "../../core/assessment/results/boardRow.ts";
import type { MeshQuality } from "../../core/mesh/quality.ts";
import type { CaseSetup } from "../../core/problems/describe/caseSetup.ts";
import type { MeshSpec, RunSettings } from "../../core/problems/describe/runSettings.ts";
import type { Build } from "../../core/records/build.ts";
import type { FindingSeverity } from "../../core/records/finding.ts";
import type { OwnRule } from "../../core/records/ownRule.ts";
import type { DecisionRule, Level, Person, ProgrammeLimit, Stakes } from "../../core/records/programme.ts";
import type { Reference } from "../../core/records/reference.ts";
import type { RunJudging, RunResult, RunState } from "../../core/records/run.ts";
import type { SignOff, Withdrawal } from "../../core/records/signOff.ts";
import type { QuantityKind } from "../../core/units/quantityKind.ts";

const id = () => uuid("id").primaryKey().defaultRandom();
const when = (name: string) => timestamp(name, { withTimezone: true, mode: "date" });
const created = () => when("created_at").notNull().defaultNow();

export const programme = pgTable("programme", {
  id: id(),
  name: text("name").notNull(),
  purpose: text("purpose").notNull().default(""),
  people: jsonb("people").$type<Person[]>().notNull().default([]),
  limits: jsonb("limits").$type<ProgrammeLimit[]>().notNull().default([]),
  /** how differences are held against limits */
  decision: text("decision").$type<DecisionRule>().notNull().default("both-ways"),
  /** set-up rules of its own */
  rules: jsonb("rules").$type<OwnRule[]>().notNull().default([]),
  /** what hangs on it, where it was said: sets how credible its evidence has to be */
  stakes: jsonb("stakes").$type<Stakes>(),
  createdAt: created(),
  deletedAt: when("deleted_at"),
});

export const caseTable = pgTable("case", {
  id: id(),
  programmeId: uuid("programme_id")
    .notNull()
    .references(() => programme.id),
  title: text("title").notNull(),
  kind: text("kind").$type<"exact" | "published" | "measured">().notNull(),
  purpose: text("purpose").notNull().default(""),
  /** where it stands between single effects and the application; its kind tells where nobody did */
  level: text("level").$type<Level>(),
  tags: jsonb("tags").$type<string[]>().notNull().default([]),
  setup: jsonb("setup").$type<CaseSetup>().notNull(),
  createdAt: created(),
  deletedAt: when("deleted_at"),
});

const caseId = () =>
  uuid("case_id")
    .notNull()
    .references(() => caseTable.id);

export const quantity = pgTable(
  "quantity",
  {
    id: id(),
    caseId: caseId(),
    key: text("key").notNull(),
    name: text("name").notNull(),
    symbol: text("symbol").notNull(),
    unit: text("unit").notNull(),
    limit: doublePrecision("limit").notNull(),
    derivative: boolean("derivative").notNull().default(false),
    kind: text("kind").$type<QuantityKind>().notNull().default("plain"),
    position: integer("position").notNull(),
    deletedAt: when("deleted_at"),
  },
  (t) => [uniqueIndex("quantity_case_key").on(t.caseId, t.key)],
);

/** Yardsticks that were typed or brought in; those of the bench problems are worked out from the set-up. */
export const yardstick = pgTable(
  "yardstick",
  { id: id(), caseId: caseId(), data: jsonb("data").$type<Reference>().notNull(), createdAt: created(), deletedAt: when("deleted_at") },
  (t) => [index("yardstick_case").on(t.caseId)],
);

export const mesh = pgTable(
  "mesh",
  {
    id: id(),
    caseId: caseId(),
    label: text("label").notNull(),
    /** absent for meshes of other codes, of which only counts are known */
    spec: jsonb("spec").$type<MeshSpec>(),
    cells: integer("cells").notNull(),
    spacing: doublePrecision("spacing").notNull(),
    dimension: integer("dimension").$type<2 | 3>().notNull(),
    quality: jsonb("quality").$type<MeshQuality>(),
    hash: text("hash").notNull(),
    createdAt: created(),
  },
  (t) => [uniqueIndex("mesh_case_hash").on(t.caseId, t.hash)],
);

/** One or two parameters varied on one mesh. */
export const sweep = pgTable(
  "sweep",
  {
    id: id(),
    caseId: caseId(),
    axes: jsonb("axes").$type<SweepAxis[]>().notNull(),
    label: text("label").notNull(),
    createdAt: created(),
    deletedAt: when("deleted_at"),
  },
  (t) => [index("sweep_case").on(t.caseId)],
);

export interface SweepAxis {
  /** runs of other codes that were said to be made there: nothing was planned */
  readonly broughtIn?: boolean;
  readonly key: string;
  readonly label: string;
  readonly unit: string;
  readonly values: readonly number[];
}

export const run = pgTable(
  "run",
  {
    id: id(),
    caseId: caseId(),
    meshId: uuid("mesh_id").references(() => mesh.id),
    label: text("label").notNull(),
    origin: text("origin").$type<"bench" | "brought-in">().notNull(),
    code: text("code").notNull(),
    /** version, options, compiler and machine of the code, as far as they are known */
    build: jsonb("build").$type<Build>(),
    state: text("state").$type<RunState>().notNull(),
    /** frozen with the run; settingsHash is their hash */
    settings: jsonb("settings").$type<RunSettings>().notNull(),
    settingsHash: text("settings_hash").notNull(),
    setupHash: text("setup_hash").notNull(),
    result: jsonb("result").$type<RunResult>(),
    failure: text("failure"),
    /** the sweep it belongs to; such runs have parameters of their own and are no evidence for the case */
    sweepId: uuid("sweep_id").references(() => sweep.id),
    /** higher ones start first */
    priority: integer("priority").notNull().default(0),
    /** who computes it, and until when nobody else may; counts how often it was begun */
    leasedBy: text("leased_by"),
    leaseUntil: when("lease_until"),
    attempt: integer("attempt").notNull().default(0),
    /** how often it broke off since it last got further */
    breaks: integer("breaks").notNull().default(0),
    /** what a person decided about reading its record */
    judging: jsonb("judging").$type<RunJudging>(),
    /** blob of the state it can go on from */
    checkpoint: text("checkpoint"),
    iterations: integer("iterations").notNull().default(0),
    seconds: doublePrecision("seconds"),
    createdAt: created(),
    startedAt: when("started_at"),
    finishedAt: when("finished_at"),
    deletedAt: when("deleted_at"),
  },
  (t) => [index("run_case").on(t.caseId)],
);

const runId = () =>
  uuid("run_id")
    .notNull()
    .references(() => run.id);

/** One finished record a run: columns of doubles, one after the other, in a blob. */
export const history = pgTable("history", {
  runId: uuid("run_id")
    .primaryKey()
    .references(() => run.id),
  columns: jsonb("columns").$type<HistoryColumn[]>().notNull(),
  rows: integer("rows").notNull(),
  starts: jsonb("starts").$type<Record<string, number>>(),
  blob: text("blob").notNull(),
});

export interface HistoryColumn {
  readonly role: "iteration" | "time" | "residual" | "quantity" | "balance";
  readonly key: string;
}

/** Rows of a record while its run is under way, in the order they came. */
export const historyPart = pgTable(
  "history_part",
  {
    id: id(),
    runId: runId(),
    sequence: integer("sequence").notNull(),
    columns: jsonb("columns").$type<HistoryColumn[]>().notNull(),
    rows: jsonb("rows").$type<number[][]>().notNull(),
    starts: jsonb("starts").$type<Record<string, number>>(),
  },
  (t) => [uniqueIndex("history_part_order").on(t.runId, t.sequence)],
);

export const field = pgTable(
  "field",
  {
    id: id(),
    runId: runId(),
    name: text("name").notNull(),
    unit: text("unit").notNull(),
    count: integer("count").notNull(),
    blob: text("blob").notNull(),
    /** blob of the mesh it lies on; absent in fields older than that */
    mesh: text("mesh"),
  },
  (t) => [uniqueIndex("field_run_name").on(t.runId, t.name)],
);

/** Fields of a transient run at a time before its end, single precision. */
export const moment = pgTable(
  "moment",
  {
    id: id(),
    runId: runId(),
    sequence: integer("sequence").notNull(),
    timeS: doublePrecision("time_s").notNull(),
    fields: jsonb("fields").$type<{ name: string; unit: string; blob: string }[]>().notNull(),
  },
  (t) => [uniqueIndex("moment_order").on(t.runId, t.sequence)],
);

export const assessmentCache = pgTable("assessment", {
  caseId: uuid("case_id")
    .primaryKey()
    .references(() => caseTable.id),
  evidenceHash: text("evidence_hash").notNull(),
  /** read by `readAssessment`, which trusts nothing */
  result: jsonb("result").$type<unknown>().notNull(),
});

/** What the board shows of a case, with the stamp of what it was made from. */
export const boardRow = pgTable("board_row", {
  caseId: uuid("case_id")
    .primaryKey()
    .references(() => caseTable.id),
  stamp: text("stamp").notNull(),
  row: jsonb("row").$type<KeptRow>().notNull(),
});

/** A case on autopilot: a quantity to be taken to an uncertainty, the steps taken so far, and how it ended. */
export const pilot = pgTable(
  "pilot",
  {
    id: id(),
    caseId: caseId(),
    quantityKey: text("quantity_key").notNull(),
    /** numerical uncertainty at 95 %, over the quantity's scale */
    target: doublePrecision("target").notNull(),
    mostCells: integer("most_cells").notNull(),
    longestS: doublePrecision("longest_s").notNull(),
    /** the question it was started for */
    setupHash: text("setup_hash").notNull(),
    state: text("state").$type<PilotState>().notNull().default("under way"),
    reason: text("reason"),
    steps: jsonb("steps").$type<PilotStep[]>().notNull().default([]),
    /** how many steps were decided: two who decide at once do not both take the next */
    moves: integer("moves").notNull().default(0),
    createdAt: created(),
    endedAt: when("ended_at"),
  },
  (t) => [index("pilot_case").on(t.caseId)],
);

export type PilotState = "under way" | "reached" | "ended" | "stopped";

/** A run the autopilot queued, and why. */
export interface PilotStep {
  readonly runId: string;
  readonly label: string;
  readonly why: string;
}

/** A way of reading another code's files, kept for the next one. */
export const recipe = pgTable("recipe", {
  id: id(),
  name: text("name").notNull(),
  data: jsonb("data").$type<RecipeData>().notNull(),
  createdAt: created(),
  deletedAt: when("deleted_at"),
});

export interface RecipeData {
  readonly columns: readonly {
    readonly name: string;
    readonly role: string;
    /** unit where it was corrected */
    readonly unit?: string;
    /** name of the quantity, so that it is found in other cases too */
    readonly quantity?: string;
  }[];
  readonly code: string;
  readonly dimension: 2 | 3;
}

export const finding = pgTable("finding", {
  id: id(),
  caseId: caseId(),
  title: text("title").notNull(),
  what: text("what").notNull(),
  cause: text("cause").notNull().default(""),
  change: text("change").notNull().default(""),
  /** one of the known causes, "" for one in words */
  causeKey: text("cause_key").notNull().default(""),
  /** how much hangs on it, who sees to it, and what was done to test the suspicion */
  severity: text("severity").$type<FindingSeverity>().notNull().default("major"),
  owner: text("owner").notNull().default(""),
  test: text("test").notNull().default(""),
  /** when a run was first named that cures it */
  curedAt: when("cured_at"),
  /** what it is about: all of the case where absent */
  quantityKey: text("quantity_key"),
  /** the stage it was seen at */
  stage: text("stage"),
  shownBy: uuid("shown_by").references(() => run.id),
  curedBy: uuid("cured_by").references(() => run.id),
  createdAt: created(),
  deletedAt: when("deleted_at"),
});

export const report = pgTable(
  "report",
  {
    id: id(),
    caseId: caseId(),
    number: integer("number").notNull(),
    issuedBy: text("issued_by").notNull(),
    issuedAt: when("issued_at").notNull(),
    /** what it rests on; absent in reports older than that */
    evidenceHash: text("evidence_hash"),
    /** signatures under it, and why it no longer stands; the files never change */
    signOffs: jsonb("sign_offs").$type<SignOff[]>().notNull().default([]),
    withdrawn: jsonb("withdrawn").$type<Withdrawal>(),
    document: text("document").notNull(),
    pdf: text("pdf").notNull(),
    archive: text("archive").notNull(),
  },
  (t) => [uniqueIndex("report_case_number").on(t.caseId, t.number)],
);

/** The time line: what was changed, by whom and when; each entry is chained to the one before by its hash, and none is ever changed. */
export const event = pgTable(
  "event",
  {
    sequence: integer("sequence").primaryKey(),
    at: when("at").notNull(),
    /** what was done, in the words of the operation, with its address */
    says: text("says").notNull(),
    method: text("method").notNull(),
    path: text("path").notNull(),
    caseId: uuid("case_id"),
    /** initials, where the change was signed */
    by: text("by"),
    /** of what was sent; what was sent itself is not kept twice */
    inputHash: text("input_hash").notNull(),
    before: text("before").notNull(),
    hash: text("hash").notNull(),
  },
  (t) => [index("event_case").on(t.caseId)],
);

/** What was done to a case before it came here with an evidence pack: a stretch of the time line of the data folder it came from. */
export const earlierLine = pgTable(
  "earlier_line",
  {
    id: id(),
    caseId: caseId(),
    /** sum of the list of sums of the pack */
    manifest: text("manifest").notNull(),
    entries: jsonb("entries").$type<unknown>().notNull(),
    createdAt: created(),
  },
  (t) => [index("earlier_line_case").on(t.caseId)],
);

export const setting = pgTable("setting", { key: text("key").primaryKey(), value: jsonb("value").$type<number | string>().notNull() });
