import type { Boundary } from "../../dataset/boundaries.ts";
import { firstFew } from "../../formatting/firstFew.ts";
import { type CgnsNode, childOf, ofKind, wholesOf, wordsOf } from "./node.ts";
import { cornersIn, type Section } from "./sections.ts";

/** names one sentence tells */
const MOST_TOLD = 12;

/**
 * Boundaries of a zone by its boundary conditions, or, where these tell no places, by its sections of faces.
 * @param vertices vertices of the zone: along each index where it is structured, else in all
 * @param notes what was found, and what is said in a way that is not read, is added
 * @source CGNS, Standard Interface Data Structures: BC_t, PointList, PointRange, GridLocation_t
 */
export function boundariesOf(zone: CgnsNode, vertices: Int32Array | number, sections: readonly Section[], notes: string[]): Boundary[] {
  const conditions = ofKind(zone, "ZoneBC_t").flatMap((z) => ofKind(z, "BC_t"));
  const faces = facesOf(sections, conditions);
  const found = conditions.map((bc) => (typeof vertices === "number" ? listed(bc, vertices, faces) : ofBlock(bc, vertices)));
  if (conditions.length) {
    const named = conditions.map((b) => `${b.name}${wordsOf(b) ? ` (${wordsOf(b)})` : ""}`);
    notes.push(`Boundary conditions of zone "${zone.name}": ${told(named)}.`);
    const lost = conditions.filter((_, k) => !found[k]).map((b) => b.name);
    if (lost.length) notes.push(`Where ${told(lost)} ${lost.length > 1 ? "lie" : "lies"} is said in a way that is not read, or not at all.`);
  }
  const own = found.filter((b) => b !== undefined);
  return own.length ? own : sections.filter((s) => s.dimension === 2 && !s.ofCells).map(wholeSection);
}

const told = (names: readonly string[]): string => firstFew(names, MOST_TOLD);

const wholeSection = (s: Section): Boundary => ({ name: s.name, faces: Array.from(s.numbers, (_, c) => cornersIn(s, c)) });

interface Faces {
  readonly count: number;
  readonly cornersAt: (number: number) => readonly number[] | undefined;
}

/** Faces by the number the zone gives them. */
function facesOf(sections: readonly Section[], conditions: readonly CgnsNode[]): Faces {
  const places = new Map<number, readonly [Section, number]>();
  if (conditions.length) for (const s of sections) if (s.dimension === 2) for (const [c, n] of s.numbers.entries()) places.set(n, [s, c]);
  const cornersAt = (number: number) => {
    const place = places.get(number);
    return place && cornersIn(...place);
  };
  return { count: places.size, cornersAt };
}

/** Numbers a condition names: a list, or all from a first to a last one. */
function numbersIn(bc: CgnsNode, kind: "Point" | "Element", most: number): Int32Array | undefined {
  const list = wholesOf(childOf(bc, "IndexArray_t", `${kind}List`));
  if (list.length) return list;
  const [from = 0, to = -1] = wholesOf(childOf(bc, "IndexRange_t", `${kind}Range`));
  return from >= 1 && to >= from && to - from < most ? Int32Array.from({ length: to - from + 1 }, (_, k) => from + k) : undefined;
}

function listed(bc: CgnsNode, vertices: number, faces: Faces): Boundary | undefined {
  const location = wordsOf(childOf(bc, "GridLocation_t")) || "Vertex";
  const points = numbersIn(bc, "Point", Math.max(vertices, faces.count));
  // Files of older versions name elements in lists of their own, whatever the place of the condition.
  const elements = points && location === "FaceCenter" ? points : numbersIn(bc, "Element", faces.count);
  if (elements) {
    const own = Array.from(elements, faces.cornersAt);
    return own.every((f) => f !== undefined) ? { name: bc.name, faces: own } : undefined;
  }
  if (!points || location !== "Vertex" || !points.every((q) => q >= 1 && q <= vertices)) return undefined;
  return { name: bc.name, points: points.map((q) => q - 1) };
}

const ACROSS = ["IFaceCenter", "JFaceCenter", "KFaceCenter"];

/** A side of a block, or a part of one, by the range of its vertices or of its faces. */
function ofBlock(bc: CgnsNode, size: Int32Array): Boundary | undefined {
  const location = wordsOf(childOf(bc, "GridLocation_t")) || "Vertex";
  const range = wholesOf(childOf(bc, "IndexRange_t", "PointRange"));
  const n = size.length;
  if (n !== 3 || range.length !== 2 * n) return undefined;
  const low = range.slice(0, n);
  const high = range.slice(n);
  if (location !== "Vertex") {
    const across = location === "FaceCenter" ? [0, 1, 2].find((d) => low[d] === high[d]) : ACROSS.indexOf(location);
    if (across === undefined || across < 0) return undefined;
    // The last vertex of a face lies one beyond the face's own number.
    for (let d = 0; d < n; d++) if (d !== across) high[d]++;
  }
  // A range through all of a block is no side of it.
  if (!low.some((v, d) => v === high[d])) return undefined;
  if (!low.every((v, d) => v >= 1 && high[d] >= v && high[d] <= size[d])) return undefined;
  const points: number[] = [];
  for (let k = low[2]; k <= high[2]; k++)
    for (let j = low[1]; j <= high[1]; j++) for (let i = low[0]; i <= high[0]; i++) points.push(i - 1 + size[0] * (j - 1 + size[1] * (k - 1)));
  return { name: bc.name, points: Int32Array.from(points) };
}
