import { bench } from "../jobs/bench.ts";
import { runEvents } from "../jobs/eventStream.ts";
import { stateBuild } from "../usecases/bringIn.ts";
import { BuildInput } from "../usecases/bringInInputs.ts";
import { ConditionInput, stateCondition } from "../usecases/conditionsOfRuns.ts";
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
import { Done, Id, Ids, idOf, idsOf, type Operation, operation, z } from "./operation.ts";

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
];

export const RUN_OPERATIONS: readonly Operation[] = [...runs, ...control, ...records];
