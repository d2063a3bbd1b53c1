import { METRIC_KEYS } from "../../core/dataset/gridQuality.ts";
import { FIELD_ROLES } from "../../core/intake/gridFields.ts";
import { bench } from "../jobs/bench.ts";
import { runEvents } from "../jobs/eventStream.ts";
import { stateBuild } from "../usecases/bringIn.ts";
import { BuildInput } from "../usecases/bringInInputs.ts";
import { ConditionInput, stateCondition } from "../usecases/conditionsOfRuns.ts";
import { drawnField, drawnMoment, fieldList, fieldsFile, momentList, momentsFile, rawField, rawMesh, runsWithFieldsOf } from "../usecases/fields.ts";
import { LookGridInput, lookAtGrid, TakeGridInput, takeFields } from "../usecases/gridFields.ts";
import { InputRunsInput, startInputRuns } from "../usecases/inputRuns.ts";
import { LadderInput, startLadder } from "../usecases/ladders.ts";
import { JudgingInput, judgeRun, recordCsv, recordPictures, thinRecord } from "../usecases/records.ts";
import {
  CopyInput,
  CoresInput,
  copyRun,
  deleteRun,
  deleteSweep,
  FamilyInput,
  FieldInput,
  PriorityInput,
  restoreRun,
  runAgain,
  runFamilyAgain,
  SweepInput,
  setCores,
  setPriority,
  startChoices,
  startFamily,
  startSweep,
  stopRun,
} from "../usecases/runs.ts";
import { keepLine, LineInput, spaceFile } from "../usecases/spaceFiles.ts";
import { keepQuality, QualityInput } from "../usecases/spaceQuality.ts";
import { watchedFile, watchedFiles } from "../usecases/watchedFiles.ts";
import { Done, Id, Ids, idOf, idsOf, type Operation, operation, z } from "./operation.ts";

const BYTES = { file: "application/octet-stream" } as const;
const CSV = { file: "text/csv; charset=utf-8" } as const;

/** Families, single runs and sweeps. */
const runs: readonly Operation[] = [
  operation({
    method: "post",
    path: "/cases/{id}/family",
    says: "Queues a family of runs.",
    input: FamilyInput,
    output: Ids,
    run: ({ opened, at, input }) => startFamily(opened, at.id, input).then(idsOf),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/family/again",
    says: "Queues the newest family again with the present set-up.",
    output: Ids,
    run: ({ opened, at }) => runFamilyAgain(opened, at.id).then(idsOf),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/ladder",
    says: "Queues runs on the mesh of another that differ from the case in its time step, the extent of its domain or its tolerance alone.",
    input: LadderInput,
    output: Ids,
    run: ({ opened, at, input }) => startLadder(opened, at.id, input).then(idsOf),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/sweeps",
    says: "Queues runs over one or two conditions.",
    input: SweepInput,
    output: Id,
    run: ({ opened, at, input }) => startSweep(opened, at.id, input).then(idOf),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/input-runs",
    says: "Queues the runs that tell what quantities answer to: central differences, or a sample, over the stated uncertainties of the conditions.",
    input: InputRunsInput,
    output: Id,
    run: ({ opened, at, input }) => startInputRuns(opened, at.id, input).then(idOf),
  }),
  operation({
    method: "put",
    path: "/runs/{id}/build",
    says: "Says with which version, options, compiler and machine of its code a brought-in run was made.",
    input: BuildInput,
    output: Done,
    run: ({ opened, at, input }) => stateBuild(opened, at.id, input),
  }),
  operation({
    method: "put",
    path: "/runs/{id}/condition",
    says: "States that a brought-in run was made at a condition other than the case's, or takes that back: such runs are a curve over the condition.",
    input: ConditionInput,
    output: Done,
    run: ({ opened, at, input }) => stateCondition(opened, at.id, input),
  }),
  operation({
    method: "delete",
    path: "/sweeps/{id}",
    says: "Deletes a sweep with its runs.",
    output: Done,
    run: ({ opened, at }) => deleteSweep(opened, at.id),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/again",
    says: "Queues a run again with the same settings.",
    output: Id,
    run: ({ opened, at }) => runAgain(opened, at.id).then(idOf),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/copy",
    says: "Queues a run like another one with other cells, numerics or stop rules.",
    input: CopyInput,
    output: Id,
    run: ({ opened, at, input }) => copyRun(opened, at.id, input).then(idOf),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/starts",
    says: "Finished runs a copy of this one could start from.",
    output: z.array(z.object({ id: z.string(), label: z.string(), cells: z.number() })),
    run: ({ opened, at }) => startChoices(opened, at.id),
  }),
  operation({
    method: "delete",
    path: "/runs/{id}",
    says: "Deletes a run that is not under way; it can be restored.",
    output: Done,
    run: ({ opened, at }) => deleteRun(opened, at.id),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/restore",
    says: "Takes the deletion of a run back.",
    output: Done,
    run: ({ opened, at }) => restoreRun(opened, at.id),
  }),
];

/** Runs under way, and the bench they run on. */
const control: readonly Operation[] = [
  operation({
    method: "post",
    path: "/runs/{id}/stop",
    says: "Stops a run and keeps what it has; one that waits leaves the queue.",
    output: Done,
    run: ({ at }) => stopRun(at.id),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/pause",
    says: "Holds a run where it is.",
    output: Done,
    run: async ({ at }) => (await bench()).pause(at.id),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/resume",
    says: "Lets a held or stopped run go on.",
    output: Done,
    run: async ({ at }) => (await bench()).resume(at.id),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/show",
    quiet: true,
    says: "Chooses the field a run under way shows.",
    input: FieldInput,
    output: Done,
    run: async ({ at, input }) => (await bench()).show(at.id, input.name),
  }),
  operation({
    method: "put",
    path: "/runs/{id}/priority",
    says: "Moves a waiting run forward or back in the queue.",
    input: PriorityInput,
    output: Done,
    run: ({ opened, at, input }) => setPriority(opened, at.id, input.priority),
  }),
  operation({
    method: "put",
    path: "/settings/cores",
    says: "How many runs the bench computes at once.",
    input: CoresInput,
    output: Done,
    run: ({ opened, input }) => setCores(opened, input.cores),
  }),
  operation({
    method: "get",
    path: "/events",
    says: "What happens to the runs of all cases, as it happens.",
    output: { file: "text/event-stream" },
    run: async ({ request }) => ({ bytes: runEvents(request.signal) }),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/under-way",
    says: "The last state of the runs of a case that are under way, for a page that has just begun to listen.",
    output: z.array(z.looseObject({ type: z.string(), runId: z.string() })),
    run: async ({ at }) => (await bench()).replay(at.id),
  }),
];

const Values = z.array(z.number().nullable()).readonly();
const ByKey = z.record(z.string(), Values);
/** A record as JSON writes it: null where an entry has no number. */
const WrittenRecord = z.object({
  iteration: Values,
  time: Values.optional(),
  residuals: ByKey,
  quantities: ByKey,
  balances: ByKey.optional(),
  starts: z.record(z.string(), z.number()).optional(),
});

/** What runs recorded and left behind. */
const records: readonly Operation[] = [
  operation({
    method: "get",
    path: "/runs/{id}/history",
    says: "The record of a run, thinned for drawing; what is stored stays whole.",
    query: z.object({ points: z.coerce.number().optional(), at: z.string().optional() }),
    output: WrittenRecord,
    run: ({ opened, at, query, request }) => thinRecord(opened, at.id, Math.min(5000, Math.max(50, query.points || 1500)), request.signal),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/history.csv",
    says: "The whole record of a run, every column with its unit.",
    output: CSV,
    run: async ({ opened, at }) => ({ bytes: await recordCsv(opened, at.id), name: "history.csv" }),
  }),
  operation({
    method: "put",
    path: "/runs/{id}/judging",
    says: "How the record of a run is read: what is left out, where it starts, whether means count.",
    input: JudgingInput,
    output: Done,
    run: ({ opened, at, input }) => judgeRun(opened, at.id, input),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/records/{key}",
    says: "One averaged record: its average, running mean, histogram, spectrum, one period.",
    output: z.unknown(),
    run: ({ opened, at, request }) => recordPictures(opened, at.id, at.key, request.signal),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/mesh",
    says: "The mesh a run's fields lie on, packed as it was kept.",
    output: BYTES,
    run: async ({ opened, at }) => ({ bytes: await rawMesh(opened, at.id) }),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/fields",
    says: "Names and units of the fields a run left behind.",
    output: z.array(z.object({ name: z.string(), unit: z.string() })),
    run: ({ opened, at }) => fieldList(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/fields",
    says: "Runs of a case that left fields, with the names of these.",
    output: z.array(z.object({ runId: z.string(), label: z.string(), code: z.string(), spacing: z.number(), fields: z.array(z.string()) })),
    run: ({ opened, at }) => runsWithFieldsOf(opened, at.id),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/grid/look",
    quiet: true,
    long: true,
    says: "Looks at an uploaded file with a grid: its cells, its arrays and what they may be; stores nothing.",
    input: LookGridInput,
    output: z.object({
      points: z.number(),
      low: z.array(z.number()),
      high: z.array(z.number()),
      solid: z.number(),
      cells: z.number(),
      kinds: z.array(z.object({ name: z.string(), count: z.number() })),
      arrays: z.array(
        z.object({
          name: z.string(),
          on: z.enum(["cells", "points"]),
          components: z.number(),
          low: z.number().nullable(),
          high: z.number().nullable(),
          role: z.enum(FIELD_ROLES),
          unit: z.string(),
          said: z.boolean(),
        }),
      ),
      notes: z.array(z.string()),
      plane: z.object({ cells: z.number(), width: z.number(), height: z.number() }).optional(),
      quality: z
        .object({
          cells: z.number(),
          faces: z.number(),
          outside: z.number(),
          volume: z.number(),
          inverted: z.array(z.number()),
          open: z.array(z.number()),
          crowded: z.number(),
          interfaces: z
            .object({ faces: z.number(), area: z.number(), open: z.number(), at: z.tuple([z.number(), z.number(), z.number()]) })
            .optional(),
          metrics: z.array(
            z.object({
              metric: z.enum(METRIC_KEYS),
              limit: z.number(),
              worst: z.number(),
              median: z.number(),
              beyond: z.number(),
              least: z.number(),
              counts: z.array(z.number()),
              cells: z.array(z.object({ cell: z.number(), value: z.number(), at: z.tuple([z.number(), z.number(), z.number()]) })),
            }),
          ),
        })
        .optional(),
      refusal: z.string().optional(),
    }),
    run: async ({ opened, at, input, request }) => structuredClone(await lookAtGrid(opened, at.id, input, request.signal)) as never,
  }),
  operation({
    method: "post",
    path: "/runs/{id}/grid",
    says: "Gives a brought-in run its mesh and fields from an uploaded file with a plane grid.",
    input: TakeGridInput,
    output: z.object({ notes: z.array(z.string()) }),
    run: ({ opened, at, input }) => takeFields(opened, at.id, input),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/grid/quality",
    says: "Judges the cells of an uploaded grid in space and keeps their quality with the run, by limits of one's own where they are given.",
    input: QualityInput,
    output: Done,
    run: ({ opened, at, input }) => keepQuality(opened, at.id, input).then(() => ({ ok: true as const })),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/space/file",
    says: "The file of a run that lies in space: whose cells were judged or cut, or the surface the flow acts on.",
    output: BYTES,
    run: ({ opened, at }) => spaceFile(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/watched",
    says: "Result files that stand beside the log a run follows.",
    output: z.array(z.object({ name: z.string(), bytes: z.number(), changedMs: z.number() })),
    run: ({ opened, at }) => watchedFiles(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/watched/{name}",
    says: "One of these files.",
    output: BYTES,
    run: ({ opened, at }) => watchedFile(opened, at.id, at.name),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/space/line",
    says: "Reads a run's file in space along a straight line and keeps the curve with the run.",
    input: LineInput,
    output: z.object({ notes: z.array(z.string()) }),
    run: ({ opened, at, input }) => keepLine(opened, at.id, input),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/fields/{name}",
    says: "One field, little-endian, one number a cell: doubles, or single precision in a gzip, which is what is drawn.",
    query: z.object({ precision: z.enum(["double", "single"]).optional() }),
    output: BYTES,
    run: async ({ opened, at, query }) =>
      query.precision === "single" ? { bytes: await drawnField(opened, at.id, at.name) } : { bytes: await rawField(opened, at.id, at.name) },
  }),
  operation({
    method: "get",
    path: "/runs/{id}/moments",
    says: "Times of a run in time at which its fields were kept, with their names and units.",
    output: z.array(z.object({ at: z.number(), timeS: z.number(), fields: z.array(z.object({ name: z.string(), unit: z.string() })) })),
    run: ({ opened, at }) => momentList(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/moments/{at}/{name}",
    says: "One field at one of these times: little-endian single precision in a gzip, one number a cell.",
    output: BYTES,
    run: async ({ opened, at }) => ({ bytes: await drawnMoment(opened, at.id, Number(at.at), at.name) }),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/moments.zip",
    says: "A picture of a field at each of these times, all on one scale, with a table of the times.",
    query: z.object({ field: z.string().min(1).max(100) }),
    output: BYTES,
    run: async ({ opened, at, query, request }) => ({ bytes: await momentsFile(opened, at.id, query.field, request.signal), name: "moments.zip" }),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/fields.vtu",
    says: "All fields on their mesh in an open format for unstructured grids.",
    output: { file: "application/xml" },
    run: async ({ opened, at, request }) => ({ bytes: await fieldsFile(opened, at.id, "vtu", request.signal), name: "fields.vtu" }),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/fields.csv",
    says: "All fields as a table, a row a cell.",
    output: CSV,
    run: async ({ opened, at, request }) => ({ bytes: await fieldsFile(opened, at.id, "csv", request.signal), name: "fields.csv" }),
  }),
];

export const RUN_OPERATIONS: readonly Operation[] = [...runs, ...control, ...records];
