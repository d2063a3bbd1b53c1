/** Of the samples of a field: their mean or integral, an extreme, or where an extreme lies. */
export type FieldTake =
  | { readonly gives: "mean" | "integral" }
  | { readonly gives: "value" | "place" | "x" | "y"; readonly of: "lowest" | "highest" }
  | { readonly gives: "place"; readonly of: "steepest slope" };

/** What is read off a boundary. */
export type BoundaryTake =
  | { readonly gives: "mass flow" | "carried flow" }
  | { readonly gives: "force"; readonly along: "x" | "y"; readonly by?: "pressure" | "shear" }
  | { readonly gives: "turning"; readonly which: "first" | "last" };

/** What a watched quantity may be on a line, by the words a person chooses it by. */
export const ON_LINE = {
  mean: { gives: "mean" },
  lowest: { gives: "value", of: "lowest" },
  highest: { gives: "value", of: "highest" },
  "place of the lowest": { gives: "place", of: "lowest" },
  "place of the highest": { gives: "place", of: "highest" },
  "place of the steepest slope": { gives: "place", of: "steepest slope" },
} as const satisfies Readonly<Record<string, FieldTake>>;

/** The same in the whole volume. */
export const IN_VOLUME = {
  mean: { gives: "mean" },
  integral: { gives: "integral" },
  lowest: { gives: "value", of: "lowest" },
  highest: { gives: "value", of: "highest" },
  "x of the lowest": { gives: "x", of: "lowest" },
  "y of the lowest": { gives: "y", of: "lowest" },
  "x of the highest": { gives: "x", of: "highest" },
  "y of the highest": { gives: "y", of: "highest" },
} as const satisfies Readonly<Record<string, FieldTake>>;

/** The same on a boundary. */
export const ON_BOUNDARY = {
  "mass flow out": { gives: "mass flow" },
  "force along x": { gives: "force", along: "x" },
  "force along y": { gives: "force", along: "y" },
  "force along x by pressure": { gives: "force", along: "x", by: "pressure" },
  "force along y by pressure": { gives: "force", along: "y", by: "pressure" },
  "force along x by shear": { gives: "force", along: "x", by: "shear" },
  "force along y by shear": { gives: "force", along: "y", by: "shear" },
  "flow out of a carried quantity": { gives: "carried flow" },
  "place where the flow along it first turns": { gives: "turning", which: "first" },
  "place where the flow along it last turns": { gives: "turning", which: "last" },
} as const satisfies Readonly<Record<string, BoundaryTake>>;

const keysOf = <T extends object>(table: T) => Object.keys(table) as (keyof T & string)[];

export const LINE_TAKES = keysOf(ON_LINE);
export const VOLUME_TAKES = keysOf(IN_VOLUME);
export const BOUNDARY_TAKES = keysOf(ON_BOUNDARY);
