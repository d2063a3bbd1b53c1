/** How points crowd along an edge. `strength` 0 is uniform; 2 makes the end cells about seven times smaller than the middle ones. */
export type Grading = { readonly kind: "uniform" } | { readonly kind: "both-ends" | "low-end" | "high-end"; readonly strength: number };

/**
 * Grid lines along an edge of a given length. The function that places them does not depend on the count,
 * so that meshes of one family are refinements of one another.
 * @param count number of cells, at least 1
 * @returns count + 1 increasing coordinates from 0 to length, m
 * @throws {RangeError} count not a whole number above 0, length or strength not positive.
 */
export function gridLines(lengthM: number, count: number, grading: Grading): Float64Array {
  if (!(lengthM > 0)) throw new RangeError(`Edge length ${lengthM} m must be positive.`);
  if (!(Number.isInteger(count) && count >= 1)) throw new RangeError(`Cell count ${count} must be a whole number of at least 1.`);
  const place = gradingFunction(grading);
  const lines = Float64Array.from({ length: count + 1 }, (_, i) => lengthM * place(i / count));
  lines[0] = 0;
  lines[count] = lengthM;
  return lines;
}

/** Where the k-th of n lines lies in [0, 1], as a function of k / n. */
export function gradingFunction(grading: Grading): (s: number) => number {
  if (grading.kind === "uniform") return (s) => s;
  const b = grading.strength;
  if (!(b > 0 && b <= 6)) throw new RangeError(`Grading strength ${b} must lie above 0 and not above 6.`);
  switch (grading.kind) {
    case "both-ends":
      // Written from the nearer end, so that the two halves mirror each other.
      return (s) => (s <= 0.5 ? half(s, b) : 1 - half(1 - s, b));
    case "low-end":
      return (s) => 1 - Math.tanh(b * (1 - s)) / Math.tanh(b);
    case "high-end":
      return (s) => Math.tanh(b * s) / Math.tanh(b);
    default:
      return grading satisfies never;
  }
}

const half = (s: number, b: number): number => 0.5 * (1 - Math.tanh(b * (1 - 2 * s)) / Math.tanh(b));
