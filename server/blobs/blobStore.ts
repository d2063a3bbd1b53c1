import { createHash } from "node:crypto";
import { mkdir, open, readdir, readFile, rename, rm, stat } from "node:fs/promises";
import path from "node:path";
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
}

const ARRIVING = "arriving.";
/** an upload that has not grown for this long has no process any more */
const FORGOTTEN_MS = 3_600_000;

/** Files named by the hash of their bytes; written beside, synced, renamed; checked when read. */
export class BlobStore {
  constructor(private readonly folder: string) {}

  private place(hash: string): string {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new BlobError("missing", hash);
    return path.join(this.folder, hash.slice(0, 2), hash);
  }

  async put(bytes: Uint8Array): Promise<string> {
    const hash = hashBytes(bytes);
    const target = this.place(hash);
    // A damaged copy is written over: equal size is a cheap first look, the hash decides on reading.
    const there = await stat(target).catch(() => undefined);
    if (there?.size === bytes.byteLength && (await this.get(hash).catch(() => undefined))) return hash;
    await mkdir(path.dirname(target), { recursive: true });
    const beside = `${target}.${process.pid}.${Math.random().toString(36).slice(2)}`;
    const file = await open(/*turbopackIgnore: true*/ beside, "wx");
    try {
      await file.writeFile(bytes);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(beside, target).catch(async (error) => {
      await rm(beside, { force: true });
      throw error;
    });
    return hash;
  }

  /**
   * Puts bytes that come in pieces, however many.
   * @throws {RangeError} More than `most` bytes came; nothing is kept.
   */
  async putPieces(pieces: AsyncIterable<Uint8Array>, most: number): Promise<{ hash: string; bytes: number }> {
    await mkdir(this.folder, { recursive: true });
    const beside = path.join(this.folder, `${ARRIVING}${process.pid}.${Math.random().toString(36).slice(2)}`);
    const digest = createHash("sha256");
    let bytes = 0;
    try {
      const file = await open(/*turbopackIgnore: true*/ beside, "wx");
      try {
        for await (const piece of pieces) {
          bytes += piece.byteLength;
          if (bytes > most) throw new RangeError(`The file has more than ${Math.round(most / 1024 / 1024)} MB.`);
          digest.update(piece);
          await file.write(piece);
        }
        await file.sync();
      } finally {
        await file.close();
      }
      const hash = digest.digest("hex");
      await mkdir(path.dirname(this.place(hash)), { recursive: true });
      await rename(beside, this.place(hash));
      return { hash, bytes };
    } catch (error) {
      await rm(beside, { force: true });
      throw error;
    }
  }

  /** Clears what uploads that broke off with their process left behind. */
  async sweep(now = Date.now()): Promise<void> {
    for (const name of await readdir(this.folder).catch(() => [])) {
      if (!name.startsWith(ARRIVING)) continue;
      const place = path.join(this.folder, name);
      const old = now - ((await stat(place).catch(() => undefined))?.mtimeMs ?? now) > FORGOTTEN_MS;
      if (old) await rm(place, { force: true });
    }
  }

  /** Where a blob lies, for readers that take it in pieces. */
  locate(hash: string): string {
    return this.place(hash);
  }

  /** Takes a blob away that nothing names any more. */
  async drop(hash: string): Promise<void> {
    await rm(this.place(hash), { force: true });
  }

  async get(hash: string): Promise<Uint8Array> {
    const bytes = await readFile(this.place(hash)).catch(() => undefined);
    if (!bytes) throw new BlobError("missing", hash);
    if (hashBytes(bytes) !== hash) throw new BlobError("damaged", hash);
    return bytes;
  }
}

/** Doubles as little-endian bytes, and back. */
export const doublesToBytes = (values: ArrayLike<number>): Uint8Array => new Uint8Array(Float64Array.from(values).buffer);
export const bytesToDoubles = (bytes: Uint8Array): Float64Array => new Float64Array(bytes.slice().buffer);
