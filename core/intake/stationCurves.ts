import { arcLength, type CutLine, cutSurface } from "../dataset/cutSurface.ts";
import type { StitchedSurface } from "../dataset/stitch.ts";
import type { OnSurface } from "../dataset/surfaceForces.ts";
import { AXES, dot, times, type Vector } from "../dataset/vector.ts";
import { asGiven } from "../formatting/number.ts";
import { extent } from "../numeric/extent.ts";
import type { Profile } from "../records/profile.ts";
import type { SurfaceSaid } from "../records/surfaces.ts";
import { curveKey } from "./curveImport.ts";
import { FieldMistake } from "./gridFields.ts";
import { surfaceFields } from "./surfaceFields.ts";

/** Curves over cuts through a surface, as they are asked for. */
export interface StationsAsked {
  /** the axis the planes stand across: 0 is x */
  readonly across: 0 | 1 | 2;
  /** where they cut it, in the file's unit of length */
  readonly stations: readonly number[];
  /** what is read along the cuts */
  readonly of: "pressure" | "shear" | "temperature";
  /** along an axis, that over its own length from its least place, or by arc length from the end that is least along the axis */
  readonly abscissa: "axis" | "share" | "arc";
  readonly along: 0 | 1 | 2;
  /** made dimensionless by the dynamic pressure; of pressure and shear */
  readonly coefficient?: { readonly densityKgM3: number; readonly speedMS: number };
  /** names of the curves on the two sides of a line that goes round: towards the greater and the lesser end of the third axis */
  readonly names: readonly [greater: string, lesser: string];
}

export interface StationCurves {
  readonly curves: readonly Profile[];
  /** the cuts themselves, in the file's unit */
  readonly lines: readonly (readonly Vector[])[];
  readonly notes: readonly string[];
}

const UNIT: readonly Vector[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** curves one question may make */
const MOST_CURVES = 200;

/**
 * Curves of pressure, shear or temperature over cuts through a surface, SI, named so that they stand beside a yardstick's at the same stations.
 * @throws {FieldMistake} what is asked for is not on the surface, or the cuts miss it
 */
export function stationCurves(s: StitchedSurface, said: SurfaceSaid, unitM: number, densityKgM3: number, asked: StationsAsked): StationCurves {
  if (asked.across === asked.along) throw new FieldMistake("Cuts", "the curves cannot run along the axis the planes stand across.");
  const fields = surfaceFields(s.grid, s.surface, said.arrays, densityKgM3);
  const field = fields[asked.of];
  if (!field) throw new FieldMistake("Cuts", `the surface has no ${asked.of}; say at Runs which array it is.`);
  const read = readerOf(asked, said, field);
  const notes: string[] = [];
  const curves: Profile[] = [];
  const lines: (readonly Vector[])[] = [];
  for (const station of asked.stations) {
    const place = times(UNIT[asked.across], station);
    const found = cutSurface(s.surface, place, UNIT[asked.across], read.field, UNIT[asked.along]).filter((l) => l.places.length > 1);
    if (!found.length) notes.push(`The plane at ${AXES[asked.across]} ${asGiven(station)} misses the surface.`);
    found.forEach((line, k) => {
      lines.push(line.closed ? [...line.places, line.places[0]] : line.places);
      const at = `${AXES[asked.across]} ${asGiven(station * unitM, 6)}${found.length > 1 ? `, line ${k + 1}` : ""}`;
      curves.push(...curvesOf(line, asked, unitM, read, at, notes));
    });
  }
  if (!curves.length) throw new FieldMistake("Cuts", "none of the planes cuts the surface.");
  if (curves.length > MOST_CURVES)
    throw new FieldMistake("Cuts", `these are ${curves.length} curves, more than ${MOST_CURVES}; ask for fewer stations.`);
  return { curves, lines, notes };
}

interface Reading {
  readonly field: OnSurface;
  readonly value: (v: number) => number;
  readonly name: string;
  readonly unit: string;
}

function readerOf({ of, along, coefficient }: StationsAsked, said: SurfaceSaid, field: OnSurface): Reading {
  if (of === "temperature") return { field, value: (v) => v, name: "temperature", unit: "K" };
  const turned = of === "shear" && said.shearOn === "fluid" ? -1 : 1;
  const [taken, by] = [of === "pressure" ? said.referencePa : 0, coefficient ? 0.5 * coefficient.densityKgM3 * coefficient.speedMS ** 2 : 1];
  const what = of === "pressure" ? "pressure" : `shear along ${AXES[along]}`;
  return { field, value: (v) => (turned * v - taken) / by, name: coefficient ? `${what} coefficient` : what, unit: coefficient ? "1" : "Pa" };
}

/** A line that goes round is two curves, split where it is least and greatest along the axis. */
function curvesOf(line: CutLine, asked: StationsAsked, unitM: number, read: Reading, at: string, notes: string[]): Profile[] {
  const third = UNIT[3 - asked.across - asked.along];
  const along = line.places.map((p) => p[asked.along]);
  const [least, greatest] = extent(along);
  const [low, high] = [along.indexOf(least), along.indexOf(greatest)];
  if (!line.closed) {
    const order = along[0] <= along[along.length - 1] ? Array.from(along.keys()) : Array.from(along.keys()).reverse();
    return [profileOf(line, order, asked, unitM, read, `${asked.names[0]} at ${at}`, notes)];
  }
  const n = along.length;
  const way = (from: number, to: number, step: 1 | -1) => {
    const out = [from];
    while (out[out.length - 1] !== to) out.push((out[out.length - 1] + step + n) % n);
    return out;
  };
  const sides = ([1, -1] as const).map((step) => way(low, high, step));
  const height = (side: readonly number[]) => {
    const inner = side.length > 2 ? side.slice(1, -1) : side;
    return inner.reduce((sum, k) => sum + dot(line.places[k], third), 0) / inner.length;
  };
  const [greater, lesser] = height(sides[0]) >= height(sides[1]) ? sides : [sides[1], sides[0]];
  return [
    profileOf(line, greater, asked, unitM, read, `${asked.names[0]} at ${at}`, notes),
    profileOf(line, lesser, asked, unitM, read, `${asked.names[1]} at ${at}`, notes),
  ];
}

function profileOf(
  line: CutLine,
  order: readonly number[],
  asked: StationsAsked,
  unitM: number,
  read: Reading,
  name: string,
  notes: string[],
): Profile {
  const places = order.map((k) => line.places[k]);
  const along = places.map((p) => p[asked.along]);
  const values = order.map((k) => read.value(line.values[k]));
  const [least, greatest] = extent(along);
  const arcs = arcLength(places);
  const raw =
    asked.abscissa === "arc"
      ? arcs.map((v) => v * unitM)
      : asked.abscissa === "share"
        ? along.map((v) => (v - least) / (greatest - least || 1))
        : along.map((v) => v * unitM);
  // Places must rise along a curve that is compared: what turns back is put in order, and that is said.
  const rising = raw.every((v, k) => k === 0 || v >= raw[k - 1]);
  if (!rising) notes.push(`${name} turns back along ${AXES[asked.along]}; its places were put in order. By arc length it would not need to be.`);
  const sorted = Array.from(raw.keys()).sort((a, b) => raw[a] - raw[b] || a - b);
  // One place, one value: where the line stands still along the axis the mean of its values counts.
  const kept: { x: number; sum: number; n: number }[] = [];
  for (const k of sorted) {
    const last = kept[kept.length - 1];
    if (last && raw[k] - last.x <= SAME * (Math.abs(raw[k]) + Math.abs(last.x))) {
      last.sum += values[k];
      last.n++;
    } else kept.push({ x: raw[k], sum: values[k], n: 1 });
  }
  const axis = AXES[asked.along];
  return {
    key: curveKey(name),
    name,
    abscissa: {
      name: asked.abscissa === "arc" ? "arc length" : asked.abscissa === "share" ? `${axis} over its length` : axis,
      unit: asked.abscissa === "share" ? "1" : "m",
      values: kept.map((p) => p.x),
    },
    value: { name: read.name, unit: read.unit, values: kept.map((p) => p.sum / p.n) },
  };
}

/** places nearer than this share are one */
const SAME = 1e-12;
