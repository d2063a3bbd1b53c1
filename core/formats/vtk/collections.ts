import { firstFew } from "../../formatting/firstFew.ts";
import { GridFileError, nextTag } from "./scan.ts";

/** Files a file of VTK's XML format names in place of cells of its own: moments of a series, or pieces of one grid. */
export type Collection =
  | { readonly kind: "series"; readonly moments: readonly { readonly time: number; readonly files: readonly string[] }[] }
  | { readonly kind: "pieces"; readonly files: readonly string[] };

const MOST_FILES = 20_000;

/**
 * The files a collection names, by their last names: folders count for nothing. A series comes in the order of its times; files of one time are pieces
 * of one moment.
 * @returns nothing where the file has cells of its own
 * @throws {GridFileError} a time that is none, no file named, or too many
 * @source VTK File Formats, parallel files; the collection of files in time is that of the same XML family
 */
export function readCollection(bytes: Uint8Array): Collection | undefined {
  const root = nextTag(bytes, 0);
  if (root?.name !== "VTKFile") return undefined;
  const type = root.attributes.type ?? "";
  if (type === "Collection") return seriesOf(bytes, root.end);
  return /^P[A-Z]/.test(type) && type !== "PolyData" ? piecesOf(bytes, root.end) : undefined;
}

const lastName = (path: string): string => path.replaceAll("\\", "/").split("/").at(-1) ?? path;

function named(
  bytes: Uint8Array,
  from: number,
  element: string,
  attribute: string,
  use: (file: string, attributes: Readonly<Record<string, string>>, at: number) => void,
) {
  let count = 0;
  for (let tag = nextTag(bytes, from); tag; tag = nextTag(bytes, tag.end)) {
    if (tag.closes || tag.name !== element) continue;
    const file = tag.attributes[attribute];
    if (!file) throw new GridFileError(`A ${element} names no file.`, tag.end);
    if (++count > MOST_FILES) throw new GridFileError(`The file names more than ${MOST_FILES} others.`, tag.end);
    use(lastName(file), tag.attributes, tag.end);
  }
  if (!count) throw new GridFileError("The file has no cells and names no file that has.", bytes.length);
}

function seriesOf(bytes: Uint8Array, from: number): Collection {
  const moments = new Map<number, string[]>();
  named(bytes, from, "DataSet", "file", (file, { timestep = "0" }, at) => {
    const time = Number(timestep);
    if (timestep.trim() === "" || !Number.isFinite(time)) throw new GridFileError(`The time "${timestep.slice(0, 30)}" is no number.`, at);
    const own = moments.get(time);
    if (own) own.push(file);
    else moments.set(time, [file]);
  });
  return { kind: "series", moments: [...moments].sort(([a], [b]) => a - b).map(([time, files]) => ({ time, files })) };
}

function piecesOf(bytes: Uint8Array, from: number): Collection {
  const files: string[] = [];
  named(bytes, from, "Piece", "Source", (file) => files.push(file));
  return { kind: "pieces", files };
}

/** A moment of a result: its files, which are pieces of one grid where they are several. */
export interface Moment {
  readonly files: readonly string[];
  /** where the files say it */
  readonly time?: number;
}

/**
 * What several chosen files are, by their names and what those that name others say: one result, in time where there are several moments.
 * @param collection of a file, where it is one
 * @returns its moments, and in sentences what was taken for granted, and named files that were not chosen
 */
export function momentsOf(
  names: readonly string[],
  collection: (name: string) => Collection | undefined,
): { readonly moments: readonly Moment[]; readonly notes: readonly string[] } {
  const notes: string[] = [];
  const found = new Map(names.map((n) => [n, collection(n)] as const));
  const series = [...found].find(([, c]) => c?.kind === "series");
  const plain = names.filter((n) => !found.get(n));
  const missing = new Set<string>();
  const there = (files: readonly string[]): string[] =>
    files.flatMap((f) => {
      const own = found.get(f);
      if (own?.kind === "pieces") return there(own.files);
      if (plain.includes(f)) return [f];
      missing.add(f);
      return [];
    });
  let moments: Moment[];
  if (series?.[1]?.kind === "series") moments = series[1].moments.map(({ time, files }) => ({ time, files: there(files) }));
  else {
    const parallel = names.filter((n) => found.get(n)?.kind === "pieces");
    const inPieces = parallel.map((n) => ({ name: n, files: there([n]) }));
    const taken = new Set(inPieces.flatMap((p) => p.files));
    const all = [...inPieces, ...plain.filter((n) => !taken.has(n)).map((n) => ({ name: n, files: [n] }))].sort((a, b) => byNumbers(a.name, b.name));
    moments = all.map(({ files }) => ({ files }));
    if (all.length > 1)
      notes.push(`${all.length} files are taken for moments of one result, in the order of the numbers in their names; no file says their times.`);
  }
  if (missing.size) notes.push(`Named but not chosen: ${firstFew([...missing], 5)}. Choose them together.`);
  return { moments: moments.filter((m) => m.files.length), notes };
}

/** Names in the order of the numbers in them: "a_9" before "a_10". */
export const byNumbers = (a: string, b: string): number => a.localeCompare(b, "en", { numeric: true });
