import { lstat, readdir, realpath } from "node:fs/promises";
import path from "node:path";
import { logFolders } from "../config.ts";
import type { Store } from "../db/store.ts";
import { openLog } from "../jobs/logFile.ts";
import { findRun } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

const RESULTS = /\.(vtu|vtp|vts|vtr|vti|cgns)$/i;
const MOST_LISTED = 2000;
/** largest file that is handed to a page, bytes */
const MOST_BYTES = 700 * 1024 * 1024;

export interface WatchedFile {
  readonly name: string;
  readonly bytes: number;
  /** ms since 1970 */
  readonly changedMs: number;
}

/** The folder a run's log is followed in. @throws {UseCaseError} it follows none, or the folder lies outside the watched ones */
async function folderOf(opened: Store, runId: string): Promise<string> {
  const follow = (await findRun(opened.db, runId))?.settings.follow;
  if (!follow) throw new UseCaseError("not-found", "The run follows no log.");
  const folder = await realpath(/*turbopackIgnore: true*/ path.dirname(follow.path)).catch(() => undefined);
  const watched = await Promise.all(logFolders(opened.folder).map((f) => realpath(/*turbopackIgnore: true*/ f).catch(() => undefined)));
  if (!folder || !watched.some((w) => w !== undefined && (folder === w || folder.startsWith(w + path.sep))))
    throw new UseCaseError("not-found", "The folder of its log is not a watched one any more.");
  return folder;
}

/** Result files that stand beside the log a run follows, the oldest name first; links and files still empty are none. */
export async function watchedFiles(opened: Store, runId: string): Promise<WatchedFile[]> {
  const folder = await folderOf(opened, runId);
  const names = (await readdir(folder)).filter((n) => RESULTS.test(n)).slice(0, MOST_LISTED);
  const found = await Promise.all(
    names.map(async (name): Promise<WatchedFile | undefined> => {
      const stats = await lstat(path.join(folder, name)).catch(() => undefined);
      return stats?.isFile() && stats.size > 0 ? { name, bytes: stats.size, changedMs: stats.mtimeMs } : undefined;
    }),
  );
  return found.filter((f) => f !== undefined).sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }));
}

/** The bytes of one of them. @throws {UseCaseError} it is none, is gone or too large */
export async function watchedFile(opened: Store, runId: string, name: string): Promise<{ bytes: Uint8Array; name: string }> {
  if (!RESULTS.test(name) || path.basename(name) !== name) throw new UseCaseError("invalid", "That is no name of a result file.");
  const folder = await folderOf(opened, runId);
  const found = await openLog(path.join(folder, name));
  if ("sentence" in found) throw new UseCaseError("not-found", `${name} ${found.sentence}.`);
  try {
    if (found.size > MOST_BYTES) throw new UseCaseError("invalid", `${name} is larger than ${MOST_BYTES / 1024 / 1024} MB.`);
    const bytes = new Uint8Array(found.size);
    const { bytesRead } = await found.file.read(bytes, 0, found.size, 0);
    return { bytes: bytes.subarray(0, bytesRead), name };
  } finally {
    await found.file.close();
  }
}
