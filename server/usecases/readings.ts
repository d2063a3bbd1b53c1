import { readdir, stat } from "node:fs/promises";
import path from "node:path";
import { z } from "zod";
import type { ColumnRole } from "../../core/intake/columnRoles.ts";
import { logFolders } from "../config.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import { findReading, startReading } from "../jobs/readings.ts";
import { Role, Units } from "./bringInInputs.ts";
import { finishedReading } from "./confirmedFiles.ts";
import { UseCaseError } from "./failure.ts";
import { knownQuantities, previewSheet } from "./previewFiles.ts";

export const MOST_UPLOAD = 2000 * 1024 * 1024;

/** Takes a file in pieces; it is read by a call of its own. */
export async function takeUpload(
  opened: Store,
  body: ReadableStream<Uint8Array> | null,
  sent = Number.NaN,
): Promise<{ hash: string; bytes: number }> {
  if (!body) throw new UseCaseError("invalid", "No file came.");
  const taken = await opened.blobs.putPieces(body as unknown as AsyncIterable<Uint8Array>, MOST_UPLOAD);
  if (!taken.bytes) throw new UseCaseError("invalid", "The file is empty.");
  if (Number.isFinite(sent) && taken.bytes < sent) {
    throw new UseCaseError("invalid", `Only ${taken.bytes} of ${sent} bytes arrived. Choose the file again.`);
  }
  return taken;
}

export const ReadingInput = z.union([
  z.object({ name: z.string().min(1).max(200), hash: z.string().regex(/^[0-9a-f]{64}$/), sheet: z.string().max(100).optional() }),
  z.object({ log: z.string().min(1).max(400) }),
]);

/** Begins to read an uploaded file, or a log in a folder of the server's list. */
export async function beginReading(opened: Store, input: z.infer<typeof ReadingInput>): Promise<{ id: string }> {
  if ("log" in input) {
    const found = (await listLogs(opened)).find((l) => l.path === input.log);
    if (!found) throw new UseCaseError("not-found", "That log is not in a watched folder.");
    return { id: startReading({ name: found.name, path: found.path }).id };
  }
  const place = opened.blobs.locate(input.hash);
  if (!(await stat(place).catch(() => undefined))) throw new UseCaseError("not-found", "The file is no longer at hand; choose it again.");
  return { id: startReading({ ...input, path: place }).id };
}

/** How far a reading is; with what was found once it is done. */
export async function readingState(opened: Store, caseId: string, id: string) {
  const r = findReading(id);
  if (!r) throw new UseCaseError("not-found", "The file is no longer at hand; choose it again.");
  const { name, state, read, total, rows, sheets } = r;
  const base = { name, state, read, total, rows, sheets, problems: r.problems };
  if (!r.sheet) return base;
  const found = await previewSheet(opened, caseId, r.sheet);
  return { ...base, preview: found.preview, problems: found.problems };
}

export const CheckInput = z.object({ roles: z.array(Role).max(400), units: Units.optional() });

/** Whether a mapping can be used, and what it leaves out. */
export async function checkMapping(opened: Store, caseId: string, id: string, input: z.infer<typeof CheckInput>, signal?: AbortSignal) {
  const { sheet } = finishedReading(id);
  const known = await knownQuantities(opened, caseId);
  return desk().ask("checkSheet", { sheet, roles: input.roles as ColumnRole[], units: input.units, known }, { signal });
}

/** A column for drawing: lowest and highest of every stretch, so that no spike is lost. */
export async function columnPicture(id: string, index: number, signal?: AbortSignal) {
  const values = finishedReading(id).sheet.columns[index];
  if (!values) throw new UseCaseError("not-found", "There is no such column.");
  return desk().ask("columnPicture", { values }, { signal });
}

export interface LogFile {
  readonly name: string;
  readonly path: string;
  readonly bytes: number;
  readonly changedAt: string;
}

const MOST_LOGS = 200;

/** Logs in the watched folders, the newest first. */
export async function listLogs(opened: Store): Promise<LogFile[]> {
  const found: LogFile[] = [];
  for (const folder of logFolders(opened.folder)) {
    for (const entry of await readdir(folder, { withFileTypes: true }).catch(() => [])) {
      if (!entry.isFile() || entry.name.startsWith(".")) continue;
      const place = path.join(folder, entry.name);
      const s = await stat(place).catch(() => undefined);
      if (s) found.push({ name: entry.name, path: place, bytes: s.size, changedAt: s.mtime.toISOString() });
    }
  }
  return found.sort((a, b) => b.changedAt.localeCompare(a.changedAt)).slice(0, MOST_LOGS);
}
