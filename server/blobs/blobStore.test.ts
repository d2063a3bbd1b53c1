import { mkdtemp, readdir, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { hashBytes } from "../hash.ts";
import { BlobStore, bytesToDoubles } from "./blobStore.ts";

const MB = 1024 * 1024;
let root: string;
beforeAll(async () => {
  root = await mkdtemp(path.join(tmpdir(), "tin-ruler-blobs-"));
});
afterAll(() => rm(root, { recursive: true, force: true }));

/** So many pieces of so many bytes each, counted as they are taken. */
function sender(count: number, size: number) {
  const taken = { pieces: 0 };
  async function* pieces() {
    for (let k = 0; k < count; k++) {
      taken.pieces++;
      yield new Uint8Array(size).fill(k);
    }
  }
  return { taken, pieces };
}

const whole = (count: number, size: number) => new Uint8Array(count * size).map((_, i) => Math.floor(i / size));

describe("bytes that come in pieces", () => {
  test("are kept under the hash of all of them", async () => {
    const store = new BlobStore(path.join(root, "kept"));
    const { pieces } = sender(5, 1000);
    const { hash, bytes } = await store.putPieces(pieces(), MB);
    expect(bytes).toBe(5000);
    expect(hash).toBe(hashBytes(whole(5, 1000)));
    expect(Buffer.from(await store.get(hash)).equals(Buffer.from(whole(5, 1000)))).toBe(true);
  });
  test("too many are all taken, up to twice the most, so that the sender hears why; nothing is left of them", async () => {
    const folder = path.join(root, "too many");
    const store = new BlobStore(folder);
    const { taken, pieces } = sender(15, MB / 10);
    await expect(store.putPieces(pieces(), MB)).rejects.toThrow("The file has more than 1 MB.");
    expect(taken.pieces).toBe(15);
    const endless = sender(1000, MB / 10);
    await expect(store.putPieces(endless.pieces(), MB)).rejects.toThrow("The file has more than 1 MB.");
    expect(endless.taken.pieces).toBe(21);
    expect(await readdir(folder)).toEqual([]);
  });
  test("where they cannot be written at all they are taken all the same", async () => {
    const file = path.join(root, "a file");
    await writeFile(file, "in the way");
    const { taken, pieces } = sender(7, 1000);
    await expect(new BlobStore(file).putPieces(pieces(), MB)).rejects.toMatchObject({ code: "EEXIST" });
    expect(taken.pieces).toBe(7);
  });
});

test("a large blob is hashed in pieces to the same name, and lets others have their turn", async () => {
  const store = new BlobStore(path.join(root, "large"));
  const bytes = new Uint8Array(30 * MB).map((_, i) => i);
  let heard = 0;
  const timer = setInterval(() => heard++, 1);
  const hash = await store.put(bytes);
  expect(hash).toBe(hashBytes(bytes));
  expect((await store.get(hash)).length).toBe(bytes.length);
  clearInterval(timer);
  expect(heard).toBeGreaterThan(3);
});

test("what is read are plain bytes, whose parts are copies", async () => {
  const written = Float64Array.of(1.5, -2.25, 1e300);
  const store = new BlobStore(path.join(root, "plain"));
  const read = await store.get(await store.put(new Uint8Array(written.buffer)));
  expect(read.constructor).toBe(Uint8Array);
  const part = read.slice(8, 16);
  expect(part.buffer.byteLength).toBe(8);
  part.fill(0);
  expect(bytesToDoubles(read)).toEqual(written);
});
