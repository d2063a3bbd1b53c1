import type { Choice } from "../forms/Field";

/** A curve of the case that one that is brought in can stand beside. */
export interface KnownCurve {
  readonly key: string;
  readonly name: string;
}

/** Entries that were filled in. */
export const filled = (entries: Readonly<Record<string, string | undefined>>): Record<string, string> =>
  Object.fromEntries(Object.entries(entries).flatMap(([key, v]) => (v ? [[key, v]] : [])));

/** What a curve can stand beside: one of its own name, or one of the case's. */
export const besideChoices = (known: readonly KnownCurve[]): Choice<string>[] => [
  ["", "a curve of its own name"],
  ...known.map((k) => [k.key, k.name] as const),
];
