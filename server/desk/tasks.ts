import type { Tell } from "./told.ts";

/** tasks of one lane follow one another on one thread, which keeps what it has read */
export type Lane = "assessing" | "papers" | "records";

type Work = (input: never, tell: Tell) => unknown;

interface Task<W extends Work> {
  readonly lane: Lane;
  /** longest it may take */
  readonly seconds: number;
  /** what it is called where it took too long */
  readonly what: string;
  /** fetches its code, when it is first asked for: a thread loads what its lane needs */
  readonly load: () => Promise<W>;
}

const task = <W extends Work>(lane: Lane, seconds: number, what: string, load: () => Promise<W>): Task<W> => ({ lane, seconds, what, load });

/**
 * Heavy work by name. A task is given all it needs but what lies in blobs, which it reads itself; it asks no database and stores nothing, so it can
 * be ended at any moment.
 */
export const TASKS = {
  yardsticks: task("assessing", 30, "Working the exact solution out", () => import("./caseTasks.ts").then((m) => m.yardsticks)),
  fromLibrary: task("assessing", 60, "Working the library's solutions out", () => import("./caseTasks.ts").then((m) => m.fromLibrary)),
  exploreLibrary: task("records", 60, "Working the solution out", () => import("./libraryTasks.ts").then((m) => m.exploreLibrary)),
  fitLibrary: task("records", 60, "Holding the library against the case", () => import("./libraryTasks.ts").then((m) => m.fitLibrary)),
  planMesh: task("assessing", 60, "Making the mesh", () => import("./caseTasks.ts").then((m) => m.planMesh)),
  assess: task("assessing", 180, "The assessment", () => import("./caseTasks.ts").then((m) => m.assess)),
  written: task("papers", 180, "Deriving the sources", () => import("./writtenTasks.ts").then((m) => m.written)),
  exercised: task("records", 60, "Working out which terms are exercised", () => import("./writtenTasks.ts").then((m) => m.exercisedText)),
  writtenFile: task("papers", 180, "Writing the sources", () => import("./writtenTasks.ts").then((m) => m.writtenFile)),
  writtenOnMesh: task("papers", 180, "The exact means", () => import("./writtenTasks.ts").then((m) => m.writtenOnMesh)),
  report: task("papers", 600, "The report", () => import("./paperTasks.ts").then((m) => m.report)),
  docx: task("papers", 180, "The text document", () => import("./paperTasks.ts").then((m) => m.docx)),
  signOffSheet: task("papers", 60, "The sheet of signatures", () => import("./paperTasks.ts").then((m) => m.signOffSheet)),
  outline: task("papers", 120, "The outline", () => import("./paperTasks.ts").then((m) => m.outline)),
  checkPack: task("papers", 1200, "Checking the pack", () => import("./paperTasks.ts").then((m) => m.checkPack)),
  openPack: task("papers", 300, "Opening the pack", () => import("../pack/openPack.ts").then((m) => m.openPack)),
  fieldFile: task("papers", 120, "Writing the fields", () => import("./fields.ts").then((m) => m.fieldFile)),
  momentPictures: task("papers", 300, "Drawing the moments", () => import("./momentTasks.ts").then((m) => m.momentPictures)),
  thin: task("records", 60, "Reading the record", () => import("./recordTasks.ts").then((m) => m.thin)),
  recordFile: task("records", 120, "Writing the record", () => import("./recordTasks.ts").then((m) => m.recordFile)),
  recordPictures: task("records", 120, "Drawing the record", () => import("./recordTasks.ts").then((m) => m.recordPictures)),
  previewSheet: task("records", 60, "Looking at the file", () => import("./sheetTasks.ts").then((m) => m.previewSheet)),
  previewTexts: task("records", 60, "Looking at the file", () => import("./sheetTasks.ts").then((m) => m.previewTexts)),
  checkSheet: task("records", 60, "Checking the file", () => import("./sheetTasks.ts").then((m) => m.checkSheet)),
  columnPicture: task("records", 60, "Drawing the column", () => import("./sheetTasks.ts").then((m) => m.columnPicture)),
  lookGrid: task("records", 300, "Looking at the grid", () => import("./gridTasks.ts").then((m) => m.lookGrid)),
  judgeGrid: task("records", 300, "Judging the cells", () => import("./gridTasks.ts").then((m) => m.judgeGrid)),
  takeGrid: task("records", 300, "Reading the grid", () => import("./gridTasks.ts").then((m) => m.takeGrid)),
  lineThrough: task("records", 300, "Reading along the line", () => import("./spaceTasks.ts").then((m) => m.lineThrough)),
  lookSurface: task("records", 300, "Looking at the surface", () => import("./surfaceTasks.ts").then((m) => m.lookSurface)),
  takeSurface: task("records", 300, "Integrating over the surface", () => import("./surfaceTasks.ts").then((m) => m.takeSurface)),
  cutStations: task("records", 300, "Cutting the surface", () => import("./surfaceTasks.ts").then((m) => m.cutStations)),
  pointsOn: task("records", 300, "Finding the points", () => import("./surfaceTasks.ts").then((m) => m.pointsOn)),
  readCurveFile: task("records", 60, "Reading the curves", () => import("./curveTasks.ts").then((m) => m.readCurveFile)),
  readConfirmed: task("records", 300, "Reading the file", () => import("./confirmed.ts").then((m) => m.readConfirmed)),
};

export type TaskName = keyof typeof TASKS;
type WorkOf<K extends TaskName> = Awaited<ReturnType<(typeof TASKS)[K]["load"]>>;
export type Input<K extends TaskName> = Parameters<WorkOf<K>>[0];
export type Output<K extends TaskName> = Awaited<ReturnType<WorkOf<K>>>;

/** Carries a task out in this thread. */
export async function carryOut<K extends TaskName>(name: K, input: Input<K>, tell: Tell): Promise<Output<K>> {
  const work = (await TASKS[name].load()) as (input: Input<K>, tell: Tell) => Output<K> | Promise<Output<K>>;
  return work(input, tell);
}
