import { z } from "zod";
import { hashOfEvent } from "../chain.ts";
import type { EventRow } from "../repositories/events.ts";

const Entry = z.strictObject({
  sequence: z.int().min(1),
  hash: z.string().length(64),
  /** absent in entries of other cases: their hash alone holds the chain together */
  said: z
    .strictObject({
      at: z.iso.datetime(),
      says: z.string(),
      method: z.string(),
      path: z.string(),
      caseId: z.uuid().nullable(),
      by: z.string().nullable(),
      inputHash: z.string(),
      before: z.string(),
    })
    .optional(),
});

/** A stretch of the time line, from the first entry of the cases in a pack to the last there was. */
export const PackedLine = z.array(Entry);
export type PackedLine = z.infer<typeof PackedLine>;

/** JSON Schema (draft 2020-12) of such a stretch. */
export const lineSchema = (): object => ({ $id: "tin-ruler-time-line-1", title: "A stretch of the time line", ...z.toJSONSchema(PackedLine) });

/** The entries of some cases in full, with the hashes of those between. */
export function packedLine(events: readonly EventRow[], caseIds: readonly string[]): PackedLine {
  const first = events.findIndex((e) => e.caseId !== null && caseIds.includes(e.caseId));
  if (first < 0) return [];
  return PackedLine.parse(
    events.slice(first).map(({ sequence, hash, at, ...said }) => {
      const ours = said.caseId !== null && caseIds.includes(said.caseId);
      return { sequence, hash, ...(ours ? { said: { ...said, at: at.toISOString() } } : {}) };
    }),
  );
}

/** What is wrong with such a stretch, in sentences: entries that are not as they were entered, and gaps. */
export function lineProblems(line: PackedLine): string[] {
  return line.flatMap(({ sequence, hash, said }, k) => {
    const before = line[k - 1];
    if (before && sequence !== before.sequence + 1) return [`Entry ${before.sequence + 1} of the time line is missing.`];
    if (!said) return [];
    const whole = hashOfEvent({ ...said, sequence, at: new Date(said.at) });
    return whole === hash && (!before || said.before === before.hash) ? [] : [`Entry ${sequence} of the time line is not as it was entered.`];
  });
}
