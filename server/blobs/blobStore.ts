import { createHash } from "node:crypto";
import { mkdir, open, readdir, readFile, rename, rm, stat, utimes } from "node:fs/promises";
import path from "node:path";
import { aloneInProcess } from "../db/alone.ts";
import { hashBytes } from "../hash.ts";

/** A blob that cannot be had: it is not there, or its bytes no longer match its name. */
export class BlobError extends Error {
  constructor(
    readonly code: "missing" | "damaged",
    readonly hash: string,
  ) {
    super(
      code === "missing"
        ? `Stored file ${hash.slice(0, 12)} is missing from the data folder.`
        : `Stored file ${hash.slice(0, 12)} is damaged: its bytes do not match its name. Restore it from a copy of the data folder.`,
    );
    this.name = "BlobError";
  }

  /** By its name, as other errors that cross from bundle to bundle. */
  static override [Symbol.hasInstance](error: unknown): boolean {
    return error instanceof Error && error.name === "BlobError";
  }
}

const ARRIVING = "arriving.";
/** a blob nothing names, or a file that has not grown, for this long has nobody any more who would name it */
const WAIT_MS = 3_600_000;
/** a blob put less long ago than this may be about to be named */
const REST_MS = 5000;

async function removeOld(place: string, before: number): Promise<number> {
  const { mtimeMs } = (await stat(place).catch(() => undefined)) ?? { mtimeMs: Number.POSITIVE_INFINITY };
  if (mtimeMs > before) return 0;
  await rm(place, { force: true });
  return 1;
}

/** A name in a folder survives a power cut only once the folder itself is on the disk. */
async function syncFolder(folder: string): Promise<void> {
  const opened = await open(/*turbopackIgnore: true*/ folder, "r");
  try {
    await opened.sync();
  } finally {
    await opened.close();
  }
}

const PIECE = 4 * 1024 * 1024;

/** The hash of bytes, however many, without holding up who else is served. */
async function hashInPieces(bytes: Uint8Array): Promise<string> {
  if (bytes.byteLength <= PIECE) return hashBytes(bytes);
  const digest = createHash("sha256");
  for (let at = 0; at < bytes.byteLength; at += PIECE) {
    digest.update(bytes.subarray(at, at + PIECE));
    await new Promise(setImmediate);
  }
  return digest.digest("hex");
}

/** Files named by the hash of their bytes; written beside, synced, renamed; checked when read. */
export class BlobStore {
  constructor(readonly folder: string) {}

  /** by hash: nothing is taken away between being found and being touched */
  private readonly alone = aloneInProcess();

  /** Makes a blob that is there young again, so that no sweep takes it. @returns whether it is there, whole */
  private touch(hash: string): Promise<boolean> {
    return this.alone(hash, async () => {
      const now = new Date();
      await utimes(this.place(hash), now, now).catch(() => undefined);
      return this.get(hash).then(
        () => true,
        () => false,
      );
    });
  }

  private place(hash: string): string {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new BlobError("missing", hash);
    return path.join(this.folder, hash.slice(0, 2), hash);
  }

  async put(bytes: Uint8Array): Promise<string> {
    const hash = await hashInPieces(bytes);
    const target = this.place(hash);
    // A damaged copy is written over: equal size is a cheap first look, the hash decides on reading.
    const there = await stat(target).catch(() => undefined);
    if (there?.size === bytes.byteLength && (await this.touch(hash))) return hash;
    await mkdir(path.dirname(target), { recursive: true });
    const beside = `${target}.${process.pid}.${Math.random().toString(36).slice(2)}`;
    const file = await open(/*turbopackIgnore: true*/ beside, "wx");
    try {
      await file.writeFile(bytes);
      await file.sync();
    } catch (error) {
      await rm(beside, { force: true });
      throw error;
    } finally {
      await file.close();
    }
    await rename(beside, target).catch(async (error) => {
      await rm(beside, { force: true });
      throw error;
    });
    await syncFolder(path.dirname(target));
    return hash;
  }

  /**
   * Puts bytes that come in pieces, however many.
   * @throws {RangeError} More than `most` bytes came; nothing is kept.
   */
  async putPieces(pieces: AsyncIterable<Uint8Array>, most: number): Promise<{ hash: string; bytes: number }> {
    const beside = path.join(this.folder, `${ARRIVING}${process.pid}.${Math.random().toString(36).slice(2)}`);
    try {
      const { hash, bytes } = await this.writePieces(beside, pieces, most);
      await mkdir(path.dirname(this.place(hash)), { recursive: true });
      await rename(beside, this.place(hash));
      await syncFolder(path.dirname(this.place(hash)));
      return { hash, bytes };
    } catch (error) {
      await rm(beside, { force: true }).catch(() => undefined);
      throw error;
    }
  }

  /** Whoever sends hears an answer only once all has been taken: what can no longer be kept is taken and let go, within bounds. */
  private async writePieces(beside: string, pieces: AsyncIterable<Uint8Array>, most: number): Promise<{ hash: string; bytes: number }> {
    const digest = createHash("sha256");
    let bytes = 0;
    let failed: unknown;
    const fail = (error: unknown) => {
      failed ??= error;
    };
    await mkdir(this.folder, { recursive: true }).catch(fail);
    const file = await open(/*turbopackIgnore: true*/ beside, "wx").catch(fail);
    try {
      for await (const piece of pieces) {
        bytes += piece.byteLength;
        if (bytes > 2 * most) break;
        if (bytes > most) fail(new RangeError(`The file has more than ${Math.round(most / 1024 / 1024)} MB.`));
        if (failed) continue;
        digest.update(piece);
        await file?.writeFile(piece).catch(fail);
      }
      if (!failed) await file?.sync().catch(fail);
    } finally {
      await file?.close();
    }
    if (failed) throw failed;
    return { hash: digest.digest("hex"), bytes };
  }

  /**
   * Takes away what nothing names any more, and what writing that broke off left behind. Only what has lain untouched for a while goes: whoever has
   * just put a blob has not yet written down its name.
   * @returns how many blobs went
   */
  async sweep(isNamed: (hash: string) => boolean, waitMs = WAIT_MS, now = Date.now()): Promise<number> {
    let gone = 0;
    for (const folder of [this.folder, ...(await this.parts())])
      for (const entry of await readdir(folder, { withFileTypes: true }).catch(() => [])) {
        if (!entry.isFile() || isNamed(entry.name)) continue;
        gone += await this.alone(entry.name, () => removeOld(path.join(folder, entry.name), now - waitMs));
      }
    return gone;
  }

  /** Takes away a blob nothing names any more; one that was just put, by whomever, stays for the sweep. */
  async drop(hash: string, restMs = REST_MS): Promise<void> {
    await this.alone(hash, () => removeOld(this.place(hash), Date.now() - restMs));
  }

  private async parts(): Promise<string[]> {
    const found = await readdir(this.folder, { withFileTypes: true }).catch(() => []);
    return found.filter((e) => e.isDirectory()).map((e) => path.join(this.folder, e.name));
  }

  /** Where a blob lies, for readers that take it in pieces. */
  locate(hash: string): string {
    return this.place(hash);
  }

  async get(hash: string): Promise<Uint8Array> {
    const bytes = await readFile(this.place(hash)).catch(() => undefined);
    if (!bytes) throw new BlobError("missing", hash);
    if ((await hashInPieces(bytes)) !== hash) throw new BlobError("damaged", hash);
    return plainBytes(bytes);
  }
}

/** Bytes whose parts are copies; those of a buffer, as files are read, are not. */
export const plainBytes = ({ buffer, byteOffset, byteLength }: Uint8Array): Uint8Array => new Uint8Array(buffer, byteOffset, byteLength);

/** Doubles as little-endian bytes, and back. */
export const doublesToBytes = (values: ArrayLike<number>): Uint8Array => new Uint8Array(Float64Array.from(values).buffer);
export const bytesToDoubles = (bytes: Uint8Array): Float64Array => new Float64Array(bytes.slice().buffer);
