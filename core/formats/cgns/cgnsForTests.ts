import h5wasm, { ready } from "h5wasm";

/** Numbers or letters of a node, and the size of each of their indices, the fastest first. */
export interface Made {
  readonly label: string;
  /** its label is written without a length */
  readonly loose?: boolean;
  readonly data?: Int32Array | Float64Array | Float32Array | BigInt64Array | string;
  readonly shape?: readonly number[];
  readonly children?: Readonly<Record<string, Made>>;
}

type Group = InstanceType<typeof h5wasm.Group>;

const TYPES = { Int32Array: "I4", BigInt64Array: "I8", Float32Array: "R4", Float64Array: "R8" } as const;

function put(group: Group, { label, loose, data, shape, children = {} }: Made): void {
  // Without a length letters go into a heap, which the standard never does.
  if (loose) group.create_attribute("label", label);
  else group.create_attribute("label", label.padEnd(32, "\0"), [], "S33");
  if (data !== undefined) {
    const own = typeof data === "string" ? Int8Array.from(data, (c) => c.charCodeAt(0)) : data;
    group.create_attribute("type", typeof data === "string" ? "C1" : TYPES[data.constructor.name as keyof typeof TYPES]);
    // The standard's files have their indices the other way round, so that the numbers stand in the standard's own order.
    group.create_dataset({ name: " data", data: own, shape: shape ? [...shape].reverse() : [own.length] });
  }
  for (const [name, child] of Object.entries(children)) put(group.create_group(name) as Group, child);
}

/** A file of the CGNS standard in HDF5 with these nodes. */
export async function cgnsFile(bases: Readonly<Record<string, Made>>): Promise<Uint8Array> {
  const { FS } = await ready;
  const file = new h5wasm.File("made.cgns", "w");
  put(file as unknown as Group, {
    label: "Root Node of HDF5 File",
    children: { CGNSLibraryVersion: { label: "CGNSLibraryVersion_t", data: Float32Array.of(4.4) }, ...bases },
  });
  file.close();
  const bytes = Uint8Array.from(FS.readFile("made.cgns"));
  FS.unlink("made.cgns");
  return bytes;
}

const range = (first: number, last: number): Made => ({ label: "IndexRange_t", data: Int32Array.of(first, last) });
const array = (data: NonNullable<Made["data"]>, shape?: readonly number[]): Made => ({ label: "DataArray_t", data, ...(shape ? { shape } : {}) });

/** Faces of a hexahedron of the vertices 1 to 8, outward. */
export const CUBE_FACES = [
  [1, 4, 3, 2],
  [5, 6, 7, 8],
  [1, 2, 6, 5],
  [2, 3, 7, 6],
  [3, 4, 8, 7],
  [1, 5, 8, 4],
] as const;

/** Elements of a section, from a number on. */
export const section = (type: number, first: number, count: number, list: readonly number[], offsets?: readonly number[]): Made => ({
  label: "Elements_t",
  data: Int32Array.of(type, 0),
  children: {
    ElementRange: range(first, first + count - 1),
    ElementConnectivity: array(Int32Array.from(list)),
    ...(offsets ? { ElementStartOffset: array(Int32Array.from(offsets)) } : {}),
  },
});

export const coordinates = (points: readonly (readonly [number, number, number])[], shape?: readonly number[]): Made => ({
  label: "GridCoordinates_t",
  children: Object.fromEntries(
    [0, 1, 2].map((d) => [
      `Coordinate${"XYZ"[d]}`,
      array(
        Float64Array.from(points, (p) => p[d]),
        shape,
      ),
    ]),
  ),
});

export const solution = (
  at: "Vertex" | "CellCenter" | "FaceCenter",
  arrays: Readonly<Record<string, readonly number[]>>,
  shape?: readonly number[],
): Made => ({
  label: "FlowSolution_t",
  children: {
    GridLocation: { label: "GridLocation_t", data: at },
    ...Object.fromEntries(Object.entries(arrays).map(([name, values]) => [name, array(Float64Array.from(values), shape)])),
  },
});

export const zone = (type: "Structured" | "Unstructured", size: readonly number[], children: Readonly<Record<string, Made>>): Made => ({
  label: "Zone_t",
  data: Int32Array.from(size),
  shape: [size.length / 3, 3],
  children: { ZoneType: { label: "ZoneType_t", data: type }, ...children },
});

export const base = (zones: Readonly<Record<string, Made>>, dimensions: readonly [number, number] = [3, 3]): Made => ({
  label: "CGNSBase_t",
  data: Int32Array.from(dimensions),
  children: zones,
});
