import { randomUUID } from "node:crypto";
import { mkdir } from "node:fs/promises";
import path from "node:path";
import type { FileProblem } from "../../core/formats/delimited.ts";
import { type Sheet, SheetReader } from "../../core/formats/sheet.ts";
import { type ColumnRole, guessRoles } from "../../core/intake/columnRoles.ts";
import { buildHistory } from "../../core/intake/historyImport.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { HistoryEvidence } from "../../core/records/run.ts";
import { type Store, store } from "../db/store.ts";
import { listQuantities } from "../repositories/cases.ts";
import { takeFollowed } from "../repositories/leases.ts";
import { addHistoryPart, clearHistoryParts, findRun, type RunRow, updateRun } from "../repositories/runs.ts";
import { lastValues, recordColumns, storeRecord } from "../usecases/storedRecord.ts";
import { publish } from "./events.ts";
import { goesOn, type LogIdentity, type OpenLog, openLog } from "./logFile.ts";

const POLL_MS = 500;
const LEASE_MS = 30_000;
/** how often leases are renewed and runs that lost their follower are looked for */
const TAKE_MS = 8_000;
const PIECE = 1 << 20;
/** bytes of one log that are read before the next has its turn */
const MOST_A_TURN = 32 << 20;
/** rows of one stored part */
const PART_ROWS = 2000;
/** entries a starting level is taken from */
const START_ENTRIES = 5;
/** a log that has not grown for this long is said to be quiet */
const QUIET_MS = 60_000;

/** A log being read while it is written. */
interface Followed {
  readonly run: RunRow;
  readonly known: readonly QuantitySpec[];
  reader: SheetReader;
  decoder: TextDecoder;
  offset: number;
  /** what the log was when it was last looked at */
  identity: LogIdentity | undefined;
  /** the log was put in the place of another */
  replaced: boolean;
  /** rows of the reader that are told */
  told: number;
  columns: number;
  lastIteration: number;
  lastTime: number;
  /** starting levels of the residuals */
  starts: Record<string, number>;
  sequence: number;
  rows: number;
  grewAt: number;
  note: string | null;
}

/** Follows logs that other programs write: new lines become rows of a run under way; the record is kept when it is ended. */
export class Follower {
  private readonly followed = new Map<string, Followed>();
  private readonly holder = `follower-${randomUUID()}`;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private turning: Promise<void> = Promise.resolve();
  private closed = false;
  private takenAt = 0;

  constructor(private readonly opened: Store) {}

  /** Goes on with what was being followed before a restart. */
  async recover(): Promise<void> {
    // The stand-in and the user's own programs find the folder ready.
    await mkdir(path.join(this.opened.folder, "logs"), { recursive: true });
    await this.take();
    this.schedule();
  }

  /** Takes runs that are followed by nobody. */
  private async take(): Promise<void> {
    const now = new Date();
    this.takenAt = now.getTime();
    const lost = this.opened.shared ? now : new Date(now.getTime() + 1e9);
    const taken = await takeFollowed(this.opened.db, this.holder, lost, new Date(now.getTime() + LEASE_MS), [...this.followed.keys()]);
    for (const run of taken) this.followed.set(run.id, await this.begin(run));
  }

  private async begin(run: RunRow): Promise<Followed> {
    await clearHistoryParts(this.opened.db, run.id);
    const known = await listQuantities(this.opened.db, run.caseId);
    return { run, known, ...fresh(), replaced: false, sequence: 0, rows: 0, grewAt: Date.now(), note: null };
  }

  private schedule(): void {
    if (this.closed) return;
    this.timer = setTimeout(() => void this.turn(false).finally(() => this.schedule()), POLL_MS);
    this.timer.unref?.();
  }

  /**
   * Reads what has come since; calls are taken one after the other.
   * @param asking look at once for runs nobody follows; else only now and then, so that an idle application leaves its database alone
   */
  turn(asking = true): Promise<void> {
    this.turning = this.turning
      .then(async () => {
        if (this.closed) return;
        if (asking || Date.now() - this.takenAt > TAKE_MS) await this.take();
        // One that cannot be read leaves the others their turn.
        for (const f of this.followed.values())
          await this.look(f).catch((error: Error) => this.say(f, `The log could not be read: ${error.message}`).catch(() => console.error(error)));
      })
      .catch((error) => console.error("Follower:", error));
    return this.turning;
  }

  private async look(f: Followed): Promise<void> {
    const place = f.run.settings.follow?.path ?? "";
    const log = await openLog(place);
    if ("sentence" in log) return this.say(f, `The log ${path.basename(place)} ${log.sentence}; what was read of it is kept.`);
    try {
      await this.readOn(f, log);
    } finally {
      await log.file.close();
    }
    if (!f.reader.problems.length && Date.now() - f.grewAt > QUIET_MS)
      await this.say(f, `The log has not grown for ${Math.round((Date.now() - f.grewAt) / 60_000)} min; end the following if the program has.`);
  }

  private async readOn(f: Followed, { file, size, identity }: OpenLog): Promise<void> {
    const another = f.identity !== undefined && !goesOn(f.identity, identity);
    if (another || size < f.offset || (f.identity && f.identity.inode !== identity.inode)) {
      // Another file, or written anew from the beginning: so is the record.
      Object.assign(f, fresh(), { replaced: f.replaced || another });
      await this.clear(f);
    }
    f.identity = identity;
    if (size <= f.offset) return;
    const end = Math.min(size, f.offset + MOST_A_TURN);
    for await (const piece of file.createReadStream({ start: f.offset, end: end - 1, highWaterMark: PIECE, autoClose: false })) {
      f.offset += (piece as Buffer).length;
      f.reader.push(f.decoder.decode(piece as Buffer, { stream: true }));
    }
    f.reader.settle();
    f.grewAt = Date.now();
    await this.tell(f);
  }

  private async clear(f: Followed): Promise<void> {
    await clearHistoryParts(this.opened.db, f.run.id);
    Object.assign(f, { sequence: 0, rows: 0, told: 0, lastIteration: Number.NEGATIVE_INFINITY, lastTime: Number.NEGATIVE_INFINITY });
  }

  /** Turns rows that are new into rows of the record. */
  private async tell(f: Followed): Promise<void> {
    const note = this.noteOf(f);
    if (note) await this.say(f, note);
    if (f.reader.rows === f.told) return;
    let built = this.build(f, f.told);
    const back = (built?.iteration[0] ?? Number.POSITIVE_INFINITY) <= f.lastIteration || (built?.time?.[0] ?? Number.POSITIVE_INFINITY) <= f.lastTime;
    const columnsNow = f.reader.columnCount;
    if (f.told > 0 && (back || columnsNow !== f.columns)) {
      // The program was restarted from an earlier iteration, or a column joined: the record is told anew, later entries count.
      await this.clear(f);
      built = this.build(f, 0);
    }
    if (!built) return;
    f.told = f.reader.rows;
    f.columns = columnsNow;
    f.lastIteration = built.iteration[built.iteration.length - 1] ?? f.lastIteration;
    f.lastTime = built.time?.[built.time.length - 1] ?? f.lastTime;
    // The level a drop is counted from, by method 1: the largest of the first entries.
    if (f.rows < START_ENTRIES)
      f.starts = Object.fromEntries(
        Object.entries(built.residuals).map(([k, v]) => [k, Math.max(...v.slice(0, START_ENTRIES).filter(Number.isFinite))]),
      );
    const { columns, values } = recordColumns(built);
    const { caseId, id: runId } = f.run;
    for (let from = 0; from < built.iteration.length; from += PART_ROWS) {
      const rows = Array.from(built.iteration.subarray(from, from + PART_ROWS), (_, i) => values.map((v) => v[from + i]));
      await addHistoryPart(this.opened.db, { runId, sequence: f.sequence++, columns, rows, starts: f.starts });
      publish(caseId, { type: "rows", runId, from: f.rows, columns, rows, starts: f.starts });
      f.rows += rows.length;
    }
    await updateRun(this.opened.db, runId, { iterations: f.rows });
    if (!note) await this.say(f, null);
  }

  /** What the rows from one on hold; rows and cells that cannot be used are left out, so that a stray line does not end the following. */
  private build(f: Followed, from: number): HistoryEvidence | undefined {
    const { roles: mapped = [], units = [] } = f.run.settings.follow ?? {};
    const whole = f.reader.sheet(from);
    const roles = withJoined(mapped as ColumnRole[], whole, f.known);
    const sheet = soundRows(whole, roles);
    if (!sheet.rows) return undefined;
    const built = buildHistory(
      sheet,
      roles,
      f.known,
      sheet.units.map((u, i) => units[i] ?? u),
    );
    if (!built.ok) {
      void this.say(f, `Line ${built.problems[0].line} of the log: ${built.problems[0].sentence}`);
      return undefined;
    }
    // Where no column counts the iterations, rows are counted on from those before.
    const before = from > 0 && !roles.includes("iteration") ? f.rows : 0;
    return before ? { ...built.history, iteration: built.history.iteration.map((n) => n + before) } : built.history;
  }

  private firstProblem(f: Followed): FileProblem | undefined {
    const { roles = [] } = f.run.settings.follow ?? {};
    return f.reader.problems[0] ?? f.reader.sheet(f.reader.rows).faults.find((list, i) => list.length > 0 && roles[i] !== "ignore")?.[0];
  }

  /** What is to be said of a log as it is read. */
  private noteOf(f: Followed): string | null {
    const problem = this.firstProblem(f);
    const said = [
      ...(f.replaced ? ["Another log was put in the place of the one that was followed: the record is of the new one alone."] : []),
      ...(problem ? [`Line ${problem.line} of the log: ${problem.sentence} ${LEFT_OUT}`] : []),
    ];
    return said.join(" ") || null;
  }

  private async say(f: Followed, note: string | null): Promise<void> {
    if (f.note === note) return;
    f.note = note;
    await updateRun(this.opened.db, f.run.id, { failure: note, iterations: f.rows });
    publish(f.run.caseId, { type: "state", runId: f.run.id, state: "followed", failure: note ?? undefined });
  }

  /** Begins to follow a run that was just made. */
  async follow(run: RunRow): Promise<void> {
    publish(run.caseId, { type: "state", runId: run.id, state: "followed" });
    await this.turn();
  }

  /** Reads to the end, keeps the record and the log itself, and closes the run. @returns whether it was followed */
  async finish(runId: string): Promise<boolean> {
    await this.turn();
    // In the same order as the looks: none comes between reading the end and closing.
    const ending = this.turning.then(() => this.end(runId));
    this.turning = ending.then(
      () => undefined,
      () => undefined,
    );
    return ending;
  }

  private async end(runId: string): Promise<boolean> {
    const run = await findRun(this.opened.db, runId);
    if (run?.state !== "followed") return false;
    const own = this.followed.get(runId);
    const f = own ?? (await this.begin(run));
    for (let before = -1; before !== f.offset; ) {
      before = f.offset;
      await this.look(f);
    }
    f.reader.push(f.decoder.decode());
    // A line without an end may be cut in the middle of a number.
    const open = f.reader.dropOpenLine();
    f.reader.end();
    const history = f.reader.rows ? this.build(f, 0) : undefined;
    const place = run.settings.follow?.path ?? "";
    const log = await openLog(place);
    const kept = "file" in log && (await this.opened.blobs.putPieces(log.file.createReadStream({ highWaterMark: PIECE }), Number.POSITIVE_INFINITY));
    if (history) await storeRecord(this.opened, runId, history);
    const settings = { ...run.settings, ...(kept ? { files: [{ name: path.basename(place), hash: kept.hash }] } : {}) };
    const note = [this.noteOf(f), open ? "The last line had no end and is left out." : null].filter(Boolean).join(" ");
    await updateRun(this.opened.db, runId, {
      settings,
      state: history ? "done" : "failed",
      failure: history ? note || null : "The log held no row that could be read.",
      result: history ? { quantities: lastValues(history.quantities), profiles: [], errorNorms: [] } : null,
      ...(history?.time ? { judging: { average: true } } : {}),
      iterations: history?.iteration.length ?? 0,
      finishedAt: new Date(),
      leasedBy: null,
      leaseUntil: null,
    });
    this.followed.delete(runId);
    publish(run.caseId, { type: "state", runId, state: history ? "done" : "failed" });
    return true;
  }

  async close(): Promise<void> {
    this.closed = true;
    clearTimeout(this.timer);
    await this.turning;
  }
}

const fresh = () => ({
  reader: new SheetReader(),
  decoder: new TextDecoder(),
  offset: 0,
  identity: undefined,
  told: 0,
  columns: 0,
  lastIteration: Number.NEGATIVE_INFINITY,
  lastTime: Number.NEGATIVE_INFINITY,
  starts: {},
});

const LEFT_OUT = "What cannot be read is left out.";

/** Rows whose iteration and time are known; of times that run back, as after a restart, the later ones. Cells that are no numbers count as gaps. */
function soundRows(sheet: Sheet, roles: readonly ColumnRole[]): Sheet {
  const counted = roles.indexOf("iteration");
  const timed = roles.indexOf("time");
  const kept: number[] = [];
  for (let i = 0; i < sheet.rows; i++) {
    if ((counted >= 0 && !Number.isFinite(sheet.columns[counted][i])) || (timed >= 0 && !Number.isFinite(sheet.columns[timed][i]))) continue;
    if (timed >= 0) while (kept.length && sheet.columns[timed][kept[kept.length - 1]] >= sheet.columns[timed][i]) kept.pop();
    kept.push(i);
  }
  const faults = sheet.faults.map(() => []);
  if (kept.length === sheet.rows) return { ...sheet, faults };
  const pick = (c: Float64Array) => Float64Array.from(kept, (i) => c[i]);
  return { ...sheet, faults, rows: kept.length, columns: sheet.columns.map(pick), lines: pick(sheet.lines) };
}

/** Columns that joined after the mapping was made are read as what they seem to be. */
const withJoined = (roles: readonly ColumnRole[], sheet: Sheet, known: readonly QuantitySpec[]): ColumnRole[] =>
  roles.length >= sheet.header.length ? [...roles] : [...roles, ...guessRoles(sheet, known).slice(roles.length)];

const held = globalThis as unknown as { tinRulerFollower?: Follower };

/** The follower of this process. */
export async function follower(): Promise<Follower> {
  const opened = await store();
  held.tinRulerFollower ??= new Follower(opened);
  return held.tinRulerFollower;
}
