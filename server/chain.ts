import { readFile, rename, writeFile } from "node:fs/promises";
import path from "node:path";
import { z } from "zod";
import type { Store } from "./db/store.ts";
import { hashOf } from "./hash.ts";
import { appendEvent, type EventRow } from "./repositories/events.ts";

/** What an entry of the time line says of itself; its number and its place in the chain are added. */
export type Said = Pick<EventRow, "says" | "method" | "path" | "caseId" | "by" | "inputHash">;

/** what the first entry is chained to */
export const BEGINNING = "0".repeat(64);

/** Hash of an entry over all it says and the hash of the one before. */
export const hashOfEvent = ({ hash: _hash, at, ...rest }: Omit<EventRow, "hash"> & { readonly hash?: string }): string =>
  hashOf({ ...rest, at: at.toISOString() });

/** Adds an entry at the end of the time line, and remembers that end beside the database. */
export async function enterSaid(opened: Store, said: Said, at = new Date()): Promise<EventRow> {
  const row = await appendEvent(opened.db, (last) => {
    const entry = { sequence: (last?.sequence ?? 0) + 1, at, ...said, before: last?.hash ?? BEGINNING };
    return { ...entry, hash: hashOfEvent(entry) };
  });
  await opened.alone("end of the time line", () => keepEnd(opened.folder, row));
  return row;
}

const End = z.object({ sequence: z.int().min(1), hash: z.string().length(64) });
export type ChainEnd = z.infer<typeof End>;

const placeOf = (folder: string) => path.join(folder, "time-line-end.json");

/** The last entry the data folder remembers, outside the database: entries cut off its end leave a whole chain, but not this one. */
export async function rememberedEnd(folder: string): Promise<ChainEnd | undefined> {
  const text = await readFile(placeOf(folder), "utf8").catch(() => undefined);
  if (text === undefined) return undefined;
  try {
    return End.safeParse(JSON.parse(text)).data;
  } catch {
    return undefined;
  }
}

async function keepEnd(folder: string, { sequence, hash }: EventRow): Promise<void> {
  if (((await rememberedEnd(folder))?.sequence ?? 0) >= sequence) return;
  const beside = `${placeOf(folder)}.${process.pid}`;
  await writeFile(beside, JSON.stringify({ sequence, hash }));
  await rename(beside, placeOf(folder));
}
