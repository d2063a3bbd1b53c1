/** Numbers a node of the standard may hold. */
export type NodeData = Int8Array | Uint8Array | Int32Array | BigInt64Array | Float32Array | Float64Array;

/** A node of a file in the CGNS standard: what it is called, what it is, and what it holds. */
export interface CgnsNode {
  readonly name: string;
  /** kind of node, such as "Zone_t" */
  readonly label: string;
  /** numbers in the order the standard counts them, the first index fastest; letters as their codes */
  readonly data: () => NodeData | undefined;
  readonly children: () => readonly CgnsNode[];
}

/** Children of a kind. */
export const ofKind = (node: CgnsNode, label: string): readonly CgnsNode[] => node.children().filter((c) => c.label === label);

/** The first child of a kind, or of a name as well. */
export const childOf = (node: CgnsNode, label: string, name?: string): CgnsNode | undefined =>
  node.children().find((c) => c.label === label && (name === undefined || c.name === name));

/** Letters a node holds. */
export function wordsOf(node: CgnsNode | undefined): string {
  const data = node?.data();
  return data instanceof Int8Array || data instanceof Uint8Array ? String.fromCharCode(...data.subarray(0, 200)).replace(/[\0 ]+$/, "") : "";
}

/** Whole numbers a node holds; those of eight bytes as numbers, which none of them is too large for. */
export function wholesOf(node: CgnsNode | undefined): Int32Array {
  const data = node?.data();
  if (data === undefined) return new Int32Array();
  return data instanceof BigInt64Array ? Int32Array.from(data, Number) : data instanceof Int32Array ? data : Int32Array.from(data);
}
