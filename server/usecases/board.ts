import { conditionsOf, proofsOf } from "../../core/assessment/credibility/factsOf.ts";
import { quantityLines } from "../../core/assessment/quantityLines.ts";
import type { BoardRow, KeptRow, QuantityLine } from "../../core/assessment/results/boardRow.ts";
import { physicsOf } from "../../core/problems/describe/caseSetup.ts";
import type { Tried } from "../../core/records/build.ts";
import { LEVEL_OF_KIND } from "../../core/records/programme.ts";
import type { Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { caseNames, caseStamps, keepBoardRow, keptBoardRows } from "../repositories/boardRows.ts";
import type { CaseBook } from "./caseBook.ts";
import { commonStamp, openEach } from "./evidence.ts";

interface Named {
  readonly id: string;
  readonly title: string;
}

/** The board: what is known of every case, and which are still being worked out. */
export interface BoardView {
  readonly rows: readonly BoardRow[];
  readonly waiting: readonly Named[];
  readonly broken: readonly (Named & { readonly sentence: string })[];
  /** changes with anything the board shows */
  readonly stamp: string;
}

type Found = { readonly row: KeptRow } | { readonly sentence: string };

interface Known {
  readonly stamp: string;
  readonly found: Found;
  /** when it was found that something of it cannot be read; the database keeps none of these */
  readonly unsoundAt?: number;
}

/** how long a page waits for what has changed before it shows the rest */
const WAIT_MS = 500;
/** what could not be read is looked at again after this long: it may have been brought back */
const AGAIN_MS = 10_000;

/** What is worked out for the board of one store, one case after the other. */
class Worker {
  private readonly waiting = new Map<string, string>();
  private working: Promise<void> | undefined;
  /** what is at hand of each case */
  readonly known = new Map<string, Known>();

  constructor(private readonly store: Store) {}

  /** @returns when all that is asked for is done */
  ask(wanted: readonly (readonly [id: string, stamp: string])[]): Promise<void> {
    for (const [id, stamp] of wanted) this.waiting.set(id, stamp);
    this.working ??= this.work().finally(() => {
      this.working = undefined;
    });
    return this.working;
  }

  private async work(): Promise<void> {
    for (;;) {
      const [next] = this.waiting;
      if (!next) return;
      const [id, stamp] = next;
      await this.one(id, stamp).catch((error) => {
        // A database that is full or restarts: the case is not worked out, and is asked for again at the next visit.
        console.error(`The board could not be brought up to date: ${(error as Error).message}`);
      });
      if (this.waiting.get(id) === stamp) this.waiting.delete(id);
    }
  }

  private async one(id: string, stamp: string): Promise<void> {
    const [found] = await openEach(this.store, [id]);
    if (!found) return;
    if ("sentence" in found) {
      if (this.known.get(id)?.stamp !== stamp) console.error(`Case ${id} cannot be shown on the board:`, found.error);
      this.known.set(id, { stamp, found: { sentence: found.sentence }, unsoundAt: Date.now() });
    } else if (found.damaged.length) this.known.set(id, { stamp, found: { row: keptRow(found) }, unsoundAt: Date.now() });
    else {
      this.known.set(id, { stamp, found: { row: keptRow(found) } });
      await keepBoardRow(this.store.db, id, stamp, keptRow(found));
    }
  }

  /** Fetches what was kept of cases that are not at hand as they are now. */
  async fetch(stamps: ReadonlyMap<string, string>): Promise<void> {
    for (const id of this.known.keys()) if (!stamps.has(id)) this.known.delete(id);
    const wanted = [...stamps].flatMap(([id, stamp]) => (this.known.get(id)?.stamp === stamp ? [] : [id]));
    for (const { caseId, stamp, row } of await keptBoardRows(this.store.db, wanted))
      if (stamps.get(caseId) === stamp) this.known.set(caseId, { stamp, found: { row } });
  }
}

const held = globalThis as unknown as { tinRulerBoards?: WeakMap<object, Worker> };

function workerOf(store: Store): Worker {
  held.tinRulerBoards ??= new WeakMap();
  const found = held.tinRulerBoards.get(store.blobs) ?? new Worker(store);
  held.tinRulerBoards.set(store.blobs, found);
  return found;
}

const keptRow = ({ row, assessment, evidence, findings, damaged }: CaseBook): KeptRow => ({
  id: row.id,
  title: row.title,
  kind: row.kind,
  programmeId: row.programmeId,
  level: row.level ?? LEVEL_OF_KIND[row.kind],
  tags: row.tags,
  conditions: conditionsOf(assessment),
  codes: [...new Set(evidence.runs.map((r) => r.code))],
  judged: evidence.runs.find((r) => r.id === assessment.ladder[0])?.code,
  proofs: proofsOf(assessment),
  tried: triedIn(evidence, assessment),
  physics: { time: physicsOf(row.setup).time, compressible: evidence.setup.compressible },
  leading: evidence.quantities[0]?.name ?? "no quantity yet",
  board: assessment.board,
  rule: assessment.rules[0],
  verdicts: assessment.verdicts.map((v) => v.state),
  openFindings: findings.filter((f) => !f.curedBy).length,
  damaged: damaged.length > 0,
  quantities: quantityLines(evidence, assessment),
});

/** Finished runs of the present set-up whose version is known, with what their records leave open. */
function triedIn({ runs, quantities, setupHash }: CaseBook["evidence"], { settling, rules }: CaseBook["assessment"]): Tried[] {
  return runs.flatMap((r) => {
    const version = r.build?.version;
    if (version === undefined || !r.result || r.setupHash !== setupHash) return [];
    const { version: _version, ...made } = r.made ?? {};
    const place = hashOf({ made, cells: r.mesh?.cells ?? r.id, spacing: r.mesh?.spacing.toPrecision(6) ?? r.id }).slice(0, 12);
    const settled = settling.find((s) => s.runId === r.id)?.quantities ?? [];
    return quantities.flatMap(({ key }) => {
      const value = r.result?.quantities[key];
      if (value === undefined || !Number.isFinite(value)) return [];
      const scale = rules.find((x) => x.quantityKey === key)?.scale ?? 0;
      const noise = (settled.find((s) => s.key === key)?.relative ?? 0) * scale;
      return [{ code: r.code, version, place, runId: r.id, quantityKey: key, value, noise, at: r.finishedAt ?? "" }];
    });
  });
}

/** A quantity of a case among all others. */
export interface AcrossLine extends QuantityLine {
  readonly caseId: string;
  readonly title: string;
}

/** Every quantity of every case that is worked out, in the order the cases were made. */
export async function acrossCases(store: Store, waitMs = WAIT_MS, programmeId?: string): Promise<{ lines: AcrossLine[]; waiting: readonly Named[] }> {
  const { kept, view } = await current(store, waitMs, programmeId);
  return { lines: kept.flatMap(({ id, title, quantities }) => quantities.map((q) => ({ ...q, caseId: id, title }))), waiting: view.waiting };
}

/** What the board shows: rows that were kept where nothing of their case has changed; the others are worked out, and a page waits a moment for them. */
export const boardView = async (store: Store, waitMs = WAIT_MS, programmeId?: string): Promise<BoardView> =>
  (await current(store, waitMs, programmeId)).view;

/** All that is kept of the cases of a programme, with their board. */
export const boardOf = (store: Store, programmeId: string, waitMs = WAIT_MS): Promise<Looked> => current(store, waitMs, programmeId);

/** All that is kept of every case of the data folder. */
export const keptRows = async (store: Store, waitMs = 0): Promise<readonly KeptRow[]> => (await current(store, waitMs)).kept;

/** The quantities of one case as the board's row opens them; none while they are being worked out. */
export async function linesOf(store: Store, caseId: string): Promise<readonly QuantityLine[]> {
  return (await current(store, 0)).kept.find((r) => r.id === caseId)?.quantities ?? [];
}

async function current(store: Store, waitMs: number, programmeId?: string): Promise<Looked> {
  const worker = workerOf(store);
  const before = await look(store, worker, programmeId);
  if (!before.missing.length) return before;
  const done = worker.ask(before.missing);
  await Promise.race([done, new Promise((resolve) => setTimeout(resolve, waitMs).unref())]);
  return look(store, worker, programmeId);
}

interface Looked {
  readonly view: BoardView;
  readonly kept: readonly KeptRow[];
  readonly missing: readonly [string, string][];
}

async function look(store: Store, worker: Worker, programmeId?: string): Promise<Looked> {
  // Stamps first: what changes meanwhile is newer than its stamp, and is looked at again.
  const common = await commonStamp(store);
  const stamps = new Map([...(await caseStamps(store.db))].map(([id, own]) => [id, `${common} ${own}`]));
  const names = (await caseNames(store.db)).filter((c) => programmeId === undefined || c.programmeId === programmeId);
  await worker.fetch(stamps);
  const kept: KeptRow[] = [];
  const waiting: Named[] = [];
  const broken: (Named & { sentence: string })[] = [];
  const missing: [string, string][] = [];
  for (const { id, title } of names) {
    const stamp = stamps.get(id) ?? "";
    const known = worker.known.get(id);
    const current = known?.stamp === stamp ? known : undefined;
    if (!current || Date.now() - (current.unsoundAt ?? Number.POSITIVE_INFINITY) > AGAIN_MS) missing.push([id, stamp]);
    if (!current) waiting.push({ id, title });
    else if ("sentence" in current.found) broken.push({ id, title, sentence: current.found.sentence });
    else kept.push(current.found.row);
  }
  const rows = kept.map(
    ({ quantities: _, conditions: _conditions, codes: _codes, proofs: _proofs, physics: _physics, tried: _tried, ...row }) => row,
  );
  return { view: { rows, waiting, broken, stamp: hashOf([...stamps.values(), rows.length, programmeId ?? ""]).slice(0, 16) }, kept, missing };
}
