import { Feet } from "../dataset/nearestFace.ts";
import type { StitchedSurface } from "../dataset/stitch.ts";
import { longestSide } from "../dataset/surface.ts";
import type { OnSurface } from "../dataset/surfaceForces.ts";
import { AXES, at, size, times, type Vector } from "../dataset/vector.ts";
import { readSheet } from "../formats/sheet.ts";
import type { SurfaceSaid } from "../records/surfaces.ts";
import { convert } from "../units/units.ts";
import { FieldMistake } from "./gridFields.ts";
import { surfaceFields } from "./surfaceFields.ts";

/** What can be read at points of a surface. */
export const POINT_READINGS = ["pressure", "temperature"] as const;
export type PointReading = (typeof POINT_READINGS)[number];

/** Unit each is kept in. */
export const READING_UNITS: Readonly<Record<PointReading, string>> = { pressure: "Pa", temperature: "K" };

/** A point on a surface, with what was measured there and what was computed, SI. */
export interface SurfacePoint {
  /** place as it was given, and the nearest of the surface, in the surface's own unit of length */
  readonly at: Vector;
  /** line of the table it stands on */
  readonly line: number;
  readonly measured?: number;
  readonly computed: number;
  /** how far it is from the surface, m */
  readonly apartM: number;
  /** out of the body, of length 1 */
  readonly facing: Vector;
}

export interface SurfacePoints {
  readonly of: PointReading;
  readonly unit: string;
  readonly points: readonly SurfacePoint[];
  /** what the measured column is called */
  readonly name: string;
  readonly notes: readonly string[];
}

/** points one table may have */
const MOST_POINTS = 5000;
/** a point farther from the surface than this share of its longest side is not on it */
const OFF = 0.02;

/** What a surface has at places: pressures less the reference that was said. @throws {FieldMistake} the surface does not have it */
export function fieldOf(s: StitchedSurface, said: SurfaceSaid, densityKgM3: number, of: PointReading): OnSurface {
  const field = surfaceFields(s.grid, s.surface, said.arrays, densityKgM3)[of];
  if (!field) throw new FieldMistake("Points", `the surface has no ${of}; say at Runs which array it is.`);
  return of === "pressure" && said.referencePa ? { ...field, values: field.values.map((v) => v - said.referencePa) } : field;
}

/**
 * Points of a table on a surface: columns x, y and z, and a further one with what was measured. Values at corners are taken linear over the
 * triangle that is nearest.
 * @param unitM metres of the surface's unit of length
 * @throws {FieldMistake} the table cannot be read, has no places, or units of another kind
 */
export function surfacePoints(
  s: StitchedSurface,
  said: SurfaceSaid,
  unitM: number,
  densityKgM3: number,
  of: PointReading,
  text: string,
): SurfacePoints {
  const field = fieldOf(s, said, densityKgM3, of);
  const table = tableOf(text, said.length, unitM, READING_UNITS[of]);
  const feet = new Feet(s.surface);
  const outward = said.normals === "out of the body" ? 1 : -1;
  const points = table.places.map((place, k): SurfacePoint => {
    const { face, corners, weights, apart } = feet.of(place);
    const computed = field.on === "faces" ? field.values[face] : corners.reduce((sum, c, i) => sum + weights[i] * field.values[c], 0);
    const area = times(at(s.geometry.area, face), s.sign[face] * outward);
    const measured = table.measured?.[k];
    return {
      at: place,
      line: table.lines[k],
      ...(measured === undefined ? {} : { measured }),
      computed,
      apartM: apart * unitM,
      facing: times(area, 1 / Math.max(size(area), Number.MIN_VALUE)),
    };
  });
  const most = OFF * longestSide(s.surface.points) * unitM;
  const off = points.filter((p) => p.apartM > most);
  const notes = off.length
    ? [`${off.length} of ${points.length} points lie more than ${OFF * 100} % of its longest side off the surface, the first on line ${off[0].line}.`]
    : [];
  return { of, unit: READING_UNITS[of], points, name: table.name, notes: [...table.notes, ...notes] };
}

interface Table {
  readonly places: readonly Vector[];
  readonly lines: readonly number[];
  readonly measured?: readonly number[];
  readonly name: string;
  readonly notes: readonly string[];
}

function tableOf(text: string, length: string, unitM: number, valueUnit: string): Table {
  const read = readSheet(text);
  if (!read.ok) throw new FieldMistake("Points", `line ${read.problems[0].line}: ${read.problems[0].sentence}`);
  const { header, units, columns, rows, lines } = read.sheet;
  const notes: string[] = [];
  const axes = AXES.map((axis) => {
    const k = header.findIndex((h) => h.trim().toLowerCase() === axis);
    if (k < 0) throw new FieldMistake("Points", `the table has no column ${axis}.`);
    return k;
  });
  if (rows > MOST_POINTS) throw new FieldMistake("Points", `these are ${rows} points, more than ${MOST_POINTS}.`);
  const metres = axes.map((k) => {
    const unit = units[k];
    if (unit === undefined) return unitM;
    const by = convert(1, unit, "m");
    if (by === undefined) throw new FieldMistake("Points", `the unit of ${header[k]}, "${unit}", is no length.`);
    return by;
  });
  if (axes.some((k) => units[k] === undefined))
    notes.push(`Where the table gives no unit of its places, they are taken in that of the surface, ${length}.`);
  const value = header.findIndex((_, k) => !axes.includes(k) && columns[k].some(Number.isFinite));
  const measured = value < 0 ? undefined : valuesOf(columns[value], units[value], valueUnit, header[value], notes);
  const kept = Array.from({ length: rows }, (_, i) => i).filter(
    (i) => axes.every((k) => Number.isFinite(columns[k][i])) && (!measured || Number.isFinite(measured[i])),
  );
  if (kept.length < rows) notes.push(`${rows - kept.length} of ${rows} rows have a gap and were left out.`);
  if (!kept.length) throw new FieldMistake("Points", "no row of the table has a whole place.");
  return {
    places: kept.map((i) => axes.map((k, d) => (columns[k][i] * metres[d]) / unitM) as unknown as Vector),
    lines: kept.map((i) => lines[i]),
    ...(measured ? { measured: kept.map((i) => measured[i]) } : {}),
    name: value < 0 ? "" : header[value],
    notes,
  };
}

function valuesOf(values: Float64Array, unit: string | undefined, target: string, name: string, notes: string[]): Float64Array {
  if (unit === undefined) {
    notes.push(`The table gives no unit of ${name}; it is taken in ${target}.`);
    return values;
  }
  if (convert(0, unit, target) === undefined) throw new FieldMistake("Points", `the unit of ${name}, "${unit}", cannot be turned into ${target}.`);
  return values.map((v) => convert(v, unit, target) ?? Number.NaN);
}
