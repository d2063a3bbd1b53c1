import { GridFileError } from "../vtk/scan.ts";
import type { CgnsNode, NodeData } from "./node.ts";

const SIGNATURE = [0x89, 0x48, 0x44, 0x46, 0x0d, 0x0a, 0x1a, 0x0a];

/** Whether bytes begin as a file of HDF5 does. */
export const isHdf5 = (bytes: Uint8Array): boolean => SIGNATURE.every((v, k) => bytes[k] === v);

/** nodes one file may have, and how deep they may lie */
const MOST_NODES = 20_000;
const DEEPEST = 24;

/** What the package says of numbers or letters before it reads them. */
interface Held {
  readonly value: unknown;
  readonly metadata: { readonly type: number; readonly vlen: boolean; readonly size: number; readonly total_size: number };
}

/** classes of HDF5's types: whole numbers, numbers, letters */
const [WHOLE, FLOAT, LETTERS] = [0, 1, 3];
/** letters a label has in the standard, its end among them */
const LABEL = 33;
/** bytes one node may hold */
const MOST_BYTES = 2e9;

interface Group {
  keys(): string[];
  get(name: string): unknown;
  readonly attrs: Readonly<Record<string, Held | undefined>>;
}

const isGroup = (v: unknown): v is Group => typeof (v as Partial<Group> | null)?.keys === "function";

let files = 0;
let refused = 0;
/** damaged files after which the package is not to be asked again: each leaves a handle open, and with some two thousand it stops */
const MOST_REFUSED = 200;

/** Whether the package has met so many damaged files that whoever loaded it should load it anew, in a thread of its own. */
export const hdf5IsSpent = (): boolean => refused >= MOST_REFUSED;

/**
 * Opens a file of the CGNS standard in HDF5; the package that reads it is fetched with the first.
 * @param use what is read of it; the nodes are gone afterwards
 * @throws {GridFileError} It is damaged, or what `use` throws.
 */
export async function withHdf5<T>(bytes: Uint8Array, use: (root: CgnsNode) => T): Promise<T> {
  const { default: h5wasm, ready } = await import("h5wasm");
  const library = await ready;
  // What goes wrong is thrown, and not written where nobody reads it.
  library.activate_throwing_error_handler();
  const { FS } = library;
  const name = `grid-${files++}.cgns`;
  let file: InstanceType<typeof h5wasm.File> | undefined;
  try {
    FS.writeFile(name, bytes);
    file = new h5wasm.File(name, "r");
    const counted = { nodes: 0 };
    return use(nodeOf(file as unknown as Group, "", 0, counted));
  } catch (error) {
    refused++;
    if (error instanceof GridFileError) throw error;
    throw new GridFileError(`The file cannot be read as HDF5: ${whyOf(error)}. It is damaged, or was cut off.`);
  } finally {
    // A spoilt file may refuse to be closed; what is thrown then says no more than what was thrown before.
    for (const undo of [() => file?.close(), () => FS.unlink(name)])
      try {
        undo();
      } catch {}
  }
}

/** Of the package's list of calls that failed, the outermost and the innermost: what could not be done, and why. */
function whyOf(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  const calls = [...text.matchAll(/^ *#\d+: .*?\(\): (.*)$/gm)].map((m) => m[1].trim());
  return [...new Set(calls.length ? [calls[0], calls[calls.length - 1]] : [text.split("\n")[0].replace(/\.$/, "")])].join(": ");
}

function nodeOf(group: Group, name: string, depth: number, counted: { nodes: number }): CgnsNode {
  if (++counted.nodes > MOST_NODES) throw new GridFileError(`The file has more than ${MOST_NODES} nodes.`);
  if (depth > DEEPEST) throw new GridFileError(`The nodes of the file lie deeper than ${DEEPEST}.`);
  let known: readonly CgnsNode[] | undefined;
  return {
    name,
    label: labelOf(group.attrs.label, name),
    data: () => dataOf(group.get(" data")),
    children: () => {
      known ??= group.keys().flatMap((key) => {
        const child = group.get(key);
        return isGroup(child) ? [nodeOf(child, key, depth + 1, counted)] : [];
      });
      return known;
    },
  };
}

// Letters of changing length lie in a heap, through which the package goes round for ever where it is spoilt; the standard has none.
function labelOf(held: Held | undefined, name: string): string {
  if (held === undefined) return "";
  const { type, vlen, size, total_size } = held.metadata;
  if (type !== LETTERS || vlen || size > LABEL || total_size !== 1)
    throw new GridFileError(`The label of node "${name}" is not of ${LABEL} letters, as the CGNS standard has it.`);
  return typeof held.value === "string" ? held.value.replace(/[\0 ]+$/, "") : "";
}

function dataOf(found: unknown): NodeData | undefined {
  const held = found as Held | null;
  const { type, vlen, size, total_size } = held?.metadata ?? { type: -1, vlen: false, size: 0, total_size: 0 };
  if (vlen || (type !== WHOLE && type !== FLOAT) || !(size * total_size <= MOST_BYTES)) return undefined;
  const value = held?.value;
  return ArrayBuffer.isView(value) ? (value as NodeData) : undefined;
}
