import type { event } from "./db/schema.ts";
import { hashOf } from "./hash.ts";

export type EventRow = typeof event.$inferSelect;

/** Hash of an entry of the time line over all it says and the hash of the one before. */
export const hashOfEvent = ({ hash: _hash, at, ...rest }: Omit<EventRow, "hash"> & { readonly hash?: string }): string =>
  hashOf({ ...rest, at: at.toISOString() });
