import type { Store } from "../db/store.ts";
import { readingHashes } from "../jobs/readings.ts";
import { namedBlobs } from "../repositories/blobs.ts";

/** Takes away stored files that no table names and no page is reading, once they have lain for an hour. @returns how many */
export async function sweepBlobs({ db, blobs }: Store, waitMs?: number): Promise<number> {
  const named = await namedBlobs(db);
  for (const hash of readingHashes()) named.add(hash);
  return blobs.sweep((hash) => named.has(hash), waitMs);
}
