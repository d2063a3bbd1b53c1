import { BEGINNING, enterSaid, hashOfEvent, rememberedEnd } from "../chain.ts";
import type { Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { PackedLine } from "../pack/packedLine.ts";
import { findCase } from "../repositories/cases.ts";
import { type EventRow, eventsAfter, listEvents } from "../repositories/events.ts";
import { findFinding } from "../repositories/findings.ts";
import { listEarlierLines } from "../repositories/packs.ts";
import { findRun } from "../repositories/runs.ts";

/** A change as it is entered. */
export interface Change {
  readonly method: string;
  readonly path: string;
  readonly says: string;
  readonly at: Readonly<Record<string, string>>;
  readonly input: unknown;
}

/** Enters a change: what was done, to which case, by whom where it was signed; what was sent by its hash. */
export async function enter(opened: Store, change: Change, at = new Date()): Promise<EventRow> {
  const { method, says, input } = change;
  const caseId = await caseOf(opened, change);
  const by = signedBy(input);
  const inputHash = hashOf(input ?? null);
  return enterSaid(opened, { says, method, path: filled(change), caseId: caseId ?? null, by: by ?? null, inputHash }, at);
}

const filled = ({ path, at }: Change): string => path.replace(/\{(\w+)\}/g, (_, key: string) => encodeURIComponent(at[key] ?? ""));

/** Initials under a change. */
function signedBy(input: unknown): string | undefined {
  if (typeof input !== "object" || input === null) return undefined;
  const said = (input as { by?: unknown }).by ?? (input as { issuedBy?: unknown }).issuedBy;
  return typeof said === "string" && said.trim() ? said.trim().slice(0, 80) : undefined;
}

/** The case a change is of: named in its address, or that of the run or finding named there. */
async function caseOf(opened: Store, { path, at }: Change): Promise<string | undefined> {
  if (!at.id) return undefined;
  if (path.startsWith("/cases/{id}")) return at.id;
  if (path.startsWith("/runs/{id}")) return (await findRun(opened.db, at.id))?.caseId;
  if (path.startsWith("/findings/{id}")) return (await findFinding(opened.db, at.id))?.caseId;
  return undefined;
}

export interface TimeLineEntry extends Omit<EventRow, "at"> {
  readonly at: string;
  /** title of its case, where there is one still */
  readonly title?: string;
}

const PAGE = 200;

/** A page of the time line, the newest first; of one case where it is named. */
export async function timeLine(opened: Store, of: { caseId?: string | undefined; before?: number | undefined } = {}): Promise<TimeLineEntry[]> {
  const rows = await listEvents(opened.db, { ...of, most: PAGE });
  const titles = new Map<string, string>();
  for (const id of new Set(rows.flatMap((r) => r.caseId ?? []))) {
    const title = (await findCase(opened.db, id))?.title;
    if (title) titles.set(id, title);
  }
  return rows.map((r) => {
    const title = r.caseId ? titles.get(r.caseId) : undefined;
    return { ...r, at: r.at.toISOString(), ...(title ? { title } : {}) };
  });
}

export interface ChainState {
  readonly entries: number;
  /** number of the first entry that is not what it was, or is missing */
  readonly broken?: number;
  readonly hash: string;
  readonly sentence: string;
}

/**
 * Walks the whole chain: every entry is what its hash says, follows the one before, and none is missing between; and the entry the data folder
 * remembers as its last is there.
 */
export async function checkChain(opened: Store): Promise<ChainState> {
  const end = await rememberedEnd(opened.folder);
  let [before, last] = [BEGINNING, 0];
  const broken = (sentence: string): ChainState => ({ entries: last, broken: last + 1, hash: before, sentence });
  for (;;) {
    const rows = await eventsAfter(opened.db, last, PAGE);
    if (!rows.length) break;
    for (const r of rows) {
      if (r.sequence !== last + 1 || r.before !== before || hashOfEvent(r) !== r.hash)
        return broken(`Entry ${last + 1} is not as it was entered: the time line was changed from outside, and is proof only up to entry ${last}.`);
      if (r.sequence === end?.sequence && r.hash !== end.hash)
        return broken(`Entry ${last + 1} is not the one the data folder remembers: entries up to it were written anew from outside.`);
      [before, last] = [r.hash, r.sequence];
    }
  }
  if (end && end.sequence > last)
    return broken(
      `The data folder remembers ${end.sequence} entries and ${last} are there: the last ${end.sequence - last} were taken off from outside.`,
    );
  return { entries: last, hash: before, sentence: last ? `${last} entries, each as it was entered.` : "Nothing was entered yet." };
}

/** What was done to a case before it came here with a pack, the first entry first. */
export async function earlierEntries(opened: Store, caseId: string): Promise<NonNullable<PackedLine[number]["said"]>[]> {
  const lines = await listEarlierLines(opened.db, caseId);
  return lines.flatMap((l) => PackedLine.parse(l.entries).flatMap(({ said }) => said ?? []));
}
