import type { assess, planMesh, yardsticks } from "./caseTasks.ts";
import type { readConfirmed } from "./confirmed.ts";
import type { fieldFile } from "./fields.ts";
import type { report } from "./paperTasks.ts";
import type { recordFile, recordPictures, thin } from "./recordTasks.ts";
import type { checkSheet, columnPicture, previewSheet, previewTexts } from "./sheetTasks.ts";

/** How far a task is, and what it is at. */
export interface Told {
  readonly done: number;
  readonly of: number;
  readonly what: string;
}

export type Tell = (told: Told) => void;

/**
 * Heavy work by name. A task is given all it needs but what lies in blobs, which it reads itself; it asks no database and stores nothing, so it can
 * be ended at any moment.
 */
interface Tasks {
  readonly yardsticks: typeof yardsticks;
  readonly assess: typeof assess;
  readonly planMesh: typeof planMesh;
  readonly report: typeof report;
  readonly fieldFile: typeof fieldFile;
  readonly thin: typeof thin;
  readonly recordFile: typeof recordFile;
  readonly recordPictures: typeof recordPictures;
  readonly previewSheet: typeof previewSheet;
  readonly previewTexts: typeof previewTexts;
  readonly checkSheet: typeof checkSheet;
  readonly columnPicture: typeof columnPicture;
  readonly readConfirmed: typeof readConfirmed;
}

const later =
  <Task extends (input: never, tell: Tell) => unknown>(load: () => Promise<Task>) =>
  async (input: Parameters<Task>[0], tell: Tell) =>
    (await load())(input as never, tell);

/** The tasks; each fetches its code when it is first asked for, so that a thread loads what its lane needs. */
const TASKS: { readonly [K in TaskName]: (input: Input<K>, tell: Tell) => unknown } = {
  yardsticks: later(() => import("./caseTasks.ts").then((m) => m.yardsticks)),
  planMesh: later(() => import("./caseTasks.ts").then((m) => m.planMesh)),
  assess: later(() => import("./caseTasks.ts").then((m) => m.assess)),
  report: later(() => import("./paperTasks.ts").then((m) => m.report)),
  fieldFile: later(() => import("./fields.ts").then((m) => m.fieldFile)),
  thin: later(() => import("./recordTasks.ts").then((m) => m.thin)),
  recordFile: later(() => import("./recordTasks.ts").then((m) => m.recordFile)),
  recordPictures: later(() => import("./recordTasks.ts").then((m) => m.recordPictures)),
  previewSheet: later(() => import("./sheetTasks.ts").then((m) => m.previewSheet)),
  previewTexts: later(() => import("./sheetTasks.ts").then((m) => m.previewTexts)),
  checkSheet: later(() => import("./sheetTasks.ts").then((m) => m.checkSheet)),
  columnPicture: later(() => import("./sheetTasks.ts").then((m) => m.columnPicture)),
  readConfirmed: later(() => import("./confirmed.ts").then((m) => m.readConfirmed)),
};

export type TaskName = keyof Tasks;
export type Input<K extends TaskName> = Parameters<Tasks[K]>[0];
export type Output<K extends TaskName> = Awaited<ReturnType<Tasks[K]>>;

/** Carries a task out in this thread. */
export const carryOut = <K extends TaskName>(task: K, input: Input<K>, tell: Tell): Promise<Output<K>> =>
  (TASKS[task] as unknown as (input: Input<K>, tell: Tell) => Promise<Output<K>>)(input, tell);
