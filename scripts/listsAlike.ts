import { expect } from "vitest";

/** A typed array equals the plain list of the same numbers, so that tests can spell records out. */
expect.addEqualityTesters([
  function listsAlike(this: { equals: (a: unknown, b: unknown) => boolean }, a: unknown, b: unknown): boolean | undefined {
    if (a instanceof Float64Array && Array.isArray(b)) return this.equals(Array.from(a), b);
    if (Array.isArray(a) && b instanceof Float64Array) return this.equals(a, Array.from(b));
    return undefined;
  },
]);
