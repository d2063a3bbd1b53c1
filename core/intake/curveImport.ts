import type { FileProblem } from "../formats/delimited.ts";
import type { Sheet } from "../formats/sheet.ts";
import { asGiven } from "../formatting/number.ts";
import type { CurveAxes } from "../records/reference.ts";
import { isUnit } from "../units/units.ts";
import { type Outlier, outliersOf } from "./outliers.ts";

/** What a column of a table of curves is. */
export const CURVE_ROLES = ["abscissa", "station", "value", "uncertainty", "place-uncertainty", "ignore"] as const;
export type CurveRole = (typeof CURVE_ROLES)[number];

/** An uncertainty by formula: a share of the value and a fixed part, added by squares. */
export interface UncertaintyRule {
  /** in the value's unit */
  readonly absolute: number;
  /** a fraction of the value's size */
  readonly relative: number;
}

export interface CurveMapping {
  readonly roles: readonly CurveRole[];
  /** units where they were corrected */
  readonly units: readonly (string | undefined)[];
  /** what uncertainties in the file and by formula are multiples of: 2 for 95 %, 1 for standard ones */
  readonly coverage: 1 | 2;
  /** each point's own part, where no column gives it */
  readonly own?: UncertaintyRule;
  /** the part all points share */
  readonly shared?: UncertaintyRule;
  /** of the place, in the unit of the abscissa */
  readonly place?: number;
}

/** A curve as it was read: places rising, repeats averaged. Uncertainties are standard ones. */
export interface ReadCurve {
  readonly name: string;
  readonly station?: number;
  readonly axes: CurveAxes;
  readonly abscissa: readonly number[];
  readonly value: readonly number[];
  readonly own?: readonly number[];
  readonly shared?: readonly number[];
  readonly place?: readonly number[];
  /** rows that went into points together with another */
  readonly repeats: number;
  /** points that do not go with their neighbours: proposals */
  readonly proposals: readonly Outlier[];
}

export type CurvesResult =
  | { readonly ok: true; readonly curves: readonly ReadCurve[]; readonly notes: readonly string[] }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

const MOST_CURVES = 400;
const MOST_PROBLEMS = 12;

/** Guesses what each column is: the first plain one is the abscissa, "station", "x/H" before it the station, "u(...)" and "uncertainty" their names. */
export function guessCurveRoles(sheet: Sheet): CurveRole[] {
  const doubt = /^(u|sigma|unc(ertainty)?|error|err|std|sd|[±+]\/?-?)\b|uncertainty|\berror\b|[ _](unc|err|std|sigma)$/i;
  const stations = sheet.header.findIndex((h) => /station|^position$|^traverse$|^line$/i.test(h));
  let abscissa = -1;
  return sheet.header.map((name, i) => {
    const numbers = sheet.columns[i].some(Number.isFinite);
    if (!numbers) return "ignore";
    if (i === stations) return "station";
    if (doubt.test(name) && !/^u$/i.test(name) && abscissa >= 0) return "uncertainty";
    if (abscissa < 0) {
      abscissa = i;
      return "abscissa";
    }
    return "value";
  });
}

/**
 * Curves of a mapped sheet: one a value column and station. Rows of one place are repeats and are averaged, and said so; rows with a gap are left out, and said so.
 * @returns problems with their line and column where the mapping cannot be used
 */
export function readCurves(sheet: Sheet, mapping: CurveMapping): CurvesResult {
  const problems = mappingProblems(sheet, mapping);
  if (problems.length) return { ok: false, problems: problems.slice(0, MOST_PROBLEMS) };
  const { roles } = mapping;
  const abscissa = roles.indexOf("abscissa");
  const station = roles.indexOf("station");
  const place = roles.indexOf("place-uncertainty");
  const rowsBy = new Map<number | undefined, number[]>();
  for (let i = 0; i < sheet.rows; i++) {
    const at = station < 0 ? undefined : sheet.columns[station][i];
    const rows = rowsBy.get(at);
    if (rows) rows.push(i);
    else rowsBy.set(at, [i]);
  }
  const columns = roles.flatMap((r, i) => (r === "value" ? [{ value: i, uncertainty: roles[i + 1] === "uncertainty" ? i + 1 : -1 }] : []));
  const stations = [...rowsBy.entries()].sort(([a = 0], [b = 0]) => a - b);
  if (stations.length * columns.length > MOST_CURVES)
    return {
      ok: false,
      problems: [
        {
          line: sheet.lines[0] ?? 1,
          column: sheet.header[station],
          sentence: `${stations.length} stations are more than ${MOST_CURVES}: is this column the station?`,
        },
      ],
    };
  const notes: string[] = [];
  const curves = columns.flatMap((c) => stations.map(([at, rows]) => oneCurve(sheet, mapping, { ...c, abscissa, place, station }, at, rows)));
  const few = curves.find((c) => c.abscissa.length < 2);
  if (few)
    return { ok: false, problems: [{ line: sheet.lines[0] ?? 1, sentence: `${few.name} has ${few.abscissa.length} points; a curve needs two.` }] };
  const gaps = curves.reduce((s, c) => s + c.gaps, 0);
  const repeats = curves.reduce((s, c) => s + c.repeats, 0);
  if (gaps) notes.push(`${gaps} rows with a gap were left out.`);
  if (repeats) notes.push(`${repeats} repeated readings were averaged with those at the same place.`);
  return { ok: true, curves: curves.map(({ gaps: _gaps, ...c }) => c), notes };
}

function mappingProblems(sheet: Sheet, { roles, units }: CurveMapping): FileProblem[] {
  const whole = (i: number) => ({ line: sheet.lines[0] ?? 1, column: sheet.header[i] });
  const all = (role: CurveRole) => roles.flatMap((r, i) => (r === role ? [i] : []));
  const problems: FileProblem[] = [];
  if (roles.length !== sheet.header.length)
    return [{ line: 1, sentence: `${roles.length} columns were mapped but the file has ${sheet.header.length}.` }];
  if (all("abscissa").length !== 1) problems.push({ line: 1, sentence: "Exactly one column must be the abscissa." });
  if (all("station").length > 1) problems.push({ line: 1, sentence: "At most one column can be the station." });
  if (!all("value").length) problems.push({ line: 1, sentence: "No column is marked as values of a curve." });
  for (const i of all("uncertainty"))
    if (roles[i - 1] !== "value") problems.push({ ...whole(i), sentence: "An uncertainty must stand right of the values it belongs to." });
  for (const i of [...all("abscissa"), ...all("value")]) {
    const unit = units[i];
    if (unit === undefined || unit === "")
      problems.push({ ...whole(i), sentence: `The unit of "${sheet.header[i]}" is not given: type it, or 1 for a pure number.` });
    else if (unit !== "1" && !isUnit(unit)) problems.push({ ...whole(i), sentence: `"${unit}" is no unit that is known here.` });
  }
  roles.forEach((r, i) => {
    if (r !== "ignore") problems.push(...sheet.faults[i]);
  });
  return problems;
}

interface Columns {
  readonly abscissa: number;
  readonly value: number;
  readonly uncertainty: number;
  readonly place: number;
  readonly station: number;
}

interface Reading {
  readonly x: number;
  readonly y: number;
  readonly u: number | undefined;
  /** of the place */
  readonly ux: number | undefined;
}

function oneCurve(
  sheet: Sheet,
  mapping: CurveMapping,
  c: Columns,
  station: number | undefined,
  rows: readonly number[],
): ReadCurve & { gaps: number } {
  const { coverage, own, shared, place } = mapping;
  const at = (column: number, row: number) => sheet.columns[column][row];
  const readings: Reading[] = [];
  let gaps = 0;
  for (const row of rows) {
    const [x, y] = [at(c.abscissa, row), at(c.value, row)];
    const u = c.uncertainty >= 0 ? at(c.uncertainty, row) / coverage : own ? Math.hypot(own.absolute, own.relative * y) / coverage : undefined;
    const ofPlace = c.place >= 0 ? at(c.place, row) : place;
    const ux = ofPlace === undefined ? undefined : ofPlace / coverage;
    if (!Number.isFinite(x) || !Number.isFinite(y) || [u, ux].some((v) => v !== undefined && !(v >= 0))) gaps++;
    else readings.push({ x, y, u, ux });
  }
  readings.sort((a, b) => a.x - b.x);
  const points = averaged(readings);
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  const all = (of: (p: Reading) => number | undefined) => {
    const list = points.map(of);
    return list.every((v) => v !== undefined) ? list : undefined;
  };
  const [us, uxs] = [all((p) => p.u), all((p) => p.ux)];
  const unit = (i: number) => mapping.units[i] ?? "1";
  const name = station === undefined ? sheet.header[c.value] : `${sheet.header[c.value]} at ${sheet.header[c.station]} ${asGiven(station, 5)}`;
  return {
    name,
    ...(station === undefined ? {} : { station }),
    axes: { name, abscissa: { name: sheet.header[c.abscissa], unit: unit(c.abscissa) }, value: { name: sheet.header[c.value], unit: unit(c.value) } },
    abscissa: xs,
    value: ys,
    ...(us ? { own: us } : {}),
    ...(shared ? { shared: ys.map((y) => Math.hypot(shared.absolute, shared.relative * y) / coverage) } : {}),
    ...(uxs ? { place: uxs } : {}),
    repeats: readings.length - points.length,
    proposals: outliersOf(xs, ys, us),
    gaps,
  };
}

/**
 * Readings of one place as one point; its uncertainty is the larger of what the readings state and of what their scatter says. How well the place is
 * known does not gain by repeats, which may share the setting: the largest figure stands.
 */
function averaged(readings: readonly Reading[]): Reading[] {
  const points: Reading[] = [];
  for (let from = 0; from < readings.length; ) {
    let to = from;
    while (to < readings.length && readings[to].x === readings[from].x) to++;
    const same = readings.slice(from, to);
    const n = same.length;
    const y = same.reduce((s, r) => s + r.y, 0) / n;
    const stated = same.every((r) => r.u !== undefined) ? Math.hypot(...same.map((r) => r.u as number)) / n : undefined;
    const scatter = n > 1 ? Math.sqrt(same.reduce((s, r) => s + (r.y - y) ** 2, 0) / (n - 1) / n) : 0;
    const ux = same.every((r) => r.ux !== undefined) ? Math.max(...same.map((r) => r.ux as number)) : undefined;
    points.push({ x: same[0].x, y, u: stated === undefined ? (n > 2 ? scatter : undefined) : Math.max(stated, scatter), ux });
    from = to;
  }
  return points;
}

/**
 * A name as a key: letters, figures and single dashes.
 * @example
 * curveKey("u at x/H 4.5") // "u-at-x-h-4-5"
 */
export const curveKey = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "")
    .slice(0, 80) || "curve";
