/** A part of the outside of cells that the file has a name for: some faces, each by its corners, or all whose corners are among some points. */
export type Boundary =
  | { readonly name: string; readonly faces: readonly (readonly number[])[] }
  | { readonly name: string; readonly points: Int32Array };

const keyOf = (corners: Iterable<number>): string => [...new Set(corners)].sort((a, b) => a - b).join(" ");

/**
 * Which boundary each face of a surface (corners of face f: pointOf[start[f] .. start[f + 1])) lies on, -1 on none; of those of one name the first, of several boundaries the first that has it.
 * Boundaries told by faces go before those told by points, which take in faces across a corner between two of them as well.
 */
export function boundaryOfFaces(
  { start, pointOf }: { readonly start: Int32Array; readonly pointOf: Int32Array },
  boundaries: readonly Boundary[],
): Int32Array {
  const first = boundaries.map((b) => boundaries.findIndex((x) => x.name === b.name));
  const byFace = new Map<string, number>();
  const byPoints: { readonly number: number; readonly points: ReadonlySet<number> }[] = [];
  boundaries.forEach((b, k) => {
    if ("points" in b) byPoints.push({ number: first[k], points: new Set(b.points) });
    else
      for (const f of b.faces) {
        const key = keyOf(f);
        if (!byFace.has(key)) byFace.set(key, first[k]);
      }
  });
  return Int32Array.from({ length: start.length - 1 }, (_, f) => {
    const corners = pointOf.subarray(start[f], start[f + 1]);
    return byFace.get(keyOf(corners)) ?? byPoints.find(({ points }) => corners.every((q) => points.has(q)))?.number ?? -1;
  });
}

/** The same boundaries with their points under other numbers. */
export const renumbered = (boundaries: readonly Boundary[], to: (point: number) => number): Boundary[] =>
  boundaries.map((b) => ("points" in b ? { name: b.name, points: b.points.map(to) } : { name: b.name, faces: b.faces.map((f) => f.map(to)) }));

interface Named {
  readonly boundaries?: readonly Boundary[];
}

/** Names a file has for parts of the outside of its cells, each once. */
export const boundaryNames = ({ boundaries = [] }: Named): string[] => [...new Set(boundaries.map((b) => b.name))];

/** Which of the names each face on the outside of a grid's cells goes by, as its place among them: -1 by none, and of faces between cells. */
export function namesOfOutside(
  { boundaries = [] }: Named,
  { start, corners, neighbour }: { readonly start: Int32Array; readonly corners: Int32Array; readonly neighbour: Int32Array },
): { readonly names: readonly string[]; readonly of: Int32Array } {
  const out = new Int32Array(neighbour.length).fill(-1);
  const names = boundaryNames({ boundaries });
  if (!names.length) return { names, of: out };
  const outside = Int32Array.from(neighbour.keys()).filter((f) => neighbour[f] < 0);
  const ends = new Int32Array(outside.length + 1);
  const list: number[] = [];
  outside.forEach((f, k) => {
    for (let m = start[f]; m < start[f + 1]; m++) list.push(corners[m]);
    ends[k + 1] = list.length;
  });
  const found = boundaryOfFaces({ start: ends, pointOf: Int32Array.from(list) }, boundaries);
  const place = boundaries.map((b) => names.indexOf(b.name));
  outside.forEach((f, k) => {
    out[f] = found[k] < 0 ? -1 : place[found[k]];
  });
  return { names, of: out };
}
