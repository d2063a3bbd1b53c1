import { constants } from "node:fs";
import { type FileHandle, open } from "node:fs/promises";

/** of the beginning of a log, what tells it from another */
const HEAD = 256;

/** What a log was when it was last looked at. */
export interface LogIdentity {
  readonly inode: number;
  readonly head: Buffer;
}

export interface OpenLog {
  readonly file: FileHandle;
  readonly size: number;
  readonly identity: LogIdentity;
}

/**
 * Opens a log for one look. A link is none: what it leads to may lie outside the watched folders.
 * @returns a sentence where it cannot be read
 */
export async function openLog(place: string): Promise<OpenLog | { readonly sentence: string }> {
  let file: FileHandle;
  try {
    file = await open(/*turbopackIgnore: true*/ place, constants.O_RDONLY | (constants.O_NOFOLLOW ?? 0));
  } catch (error) {
    const { code } = error as { code?: string };
    if (code === "ENOENT") return { sentence: "is gone" };
    return { sentence: code === "ELOOP" ? "has become a link, which is not followed" : `cannot be read (${code})` };
  }
  const stats = await file.stat();
  if (!stats.isFile()) {
    await file.close();
    return { sentence: "is no file any more" };
  }
  const head = Buffer.alloc(Math.min(HEAD, stats.size));
  const { bytesRead } = await file.read(head, 0, head.length, 0);
  return { file, size: stats.size, identity: { inode: stats.ino, head: head.subarray(0, bytesRead) } };
}

/** Whether a log goes on from what it was: the same file, or one with the same beginning, and nothing of it is missing. */
export const goesOn = (before: LogIdentity, now: LogIdentity): boolean =>
  now.head.length >= before.head.length && now.head.subarray(0, before.head.length).equals(before.head);
