import { numberOf } from "../formats/cellNumber.ts";
import type { DelimitedTable, FileProblem } from "../formats/delimited.ts";
import type { BalanceRecord } from "../records/balance.ts";
import type { ErrorNorms } from "../records/profile.ts";
import { convert } from "../units/units.ts";
import { guessNorm, isNorm, type NormRole, type NormRow, normsOf } from "./normRows.ts";

/** What a row of a quantities table becomes. */
export type RowRole = "ignore" | BoundaryRole | NormRole | `quantity:${string}`;

/** What flows through a boundary, and the unit it is kept in. */
export const BOUNDARY_ROLES = {
  "boundary-mass": "kg/s",
  "boundary-x": "N",
  "boundary-y": "N",
  "boundary-energy": "W",
  "boundary-species": "kg/s",
} as const;
export type BoundaryRole = keyof typeof BOUNDARY_ROLES;

/** How a file counts what flows through a boundary. */
export const SIGNS = ["outward", "inward", "by-name"] as const;
export interface FluxReading {
  /** positive outward, positive inward, or everything positive and the name says which way */
  readonly signs: (typeof SIGNS)[number];
  /** times the modelled part stands in the whole; flows of the file are of the part */
  readonly factor: number;
}
export const PLAIN_FLUXES: FluxReading = { signs: "outward", factor: 1 };

/** Does a row or column of this role hold a flow through a boundary? */
export const isBoundary = (role: string): role is BoundaryRole => role in BOUNDARY_ROLES;
const INFLOW = /\b(in|inlet|inflow|into|supply|entry|intake)\b/i;
const OUTFLOW = /\b(out|outlet|outflow|exit|return|exhaust|leak|wall|loss)\b/i;

export interface QuantityRow {
  readonly line: number;
  readonly name: string;
  readonly value: number;
  readonly unit?: string;
}

export type QuantityRows =
  | { readonly ok: true; readonly rows: readonly QuantityRow[] }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

interface Known {
  readonly key: string;
  readonly name: string;
  readonly symbol: string;
  readonly unit: string;
}

/** Reads a table with columns for name, value and, if there is one, unit. */
export function readQuantityRows(table: DelimitedTable): QuantityRows {
  const find = (...names: string[]) => table.header.findIndex((h) => names.includes(h.toLowerCase()));
  const nameAt = find("name", "quantity", "what");
  const valueAt = find("value", "result");
  const unitAt = find("unit", "units");
  if (nameAt < 0 || valueAt < 0)
    return {
      ok: false,
      problems: [{ line: 1, sentence: `Columns "name" and "value" are needed; the header has ${table.header.map((h) => `"${h}"`).join(", ")}.` }],
    };
  const problems: FileProblem[] = [];
  const rows = table.cells.map((cells, i) => {
    const value = numberOf(cells[valueAt], table.delimiter);
    if (value === undefined || Number.isNaN(value))
      problems.push({ line: table.lines[i], column: table.header[valueAt], sentence: `"${cells[valueAt].slice(0, 40)}" is not a number.` });
    return { line: table.lines[i], name: cells[nameAt], value: value ?? Number.NaN, unit: unitAt >= 0 ? cells[unitAt] || undefined : undefined };
  });
  return problems.length ? { ok: false, problems } : { ok: true, rows };
}

const normal = (s: string) => s.toLowerCase().replace(/[^a-z0-9]/g, "");

/** Guesses what each row is: a quantity by its name, a boundary's mass by "mass" and its unit. */
export function guessRowRoles(rows: readonly QuantityRow[], quantities: readonly Known[]): RowRole[] {
  return rows.map((r): RowRole => {
    const q = quantities.find((k) => [k.key, k.name, k.symbol].some((n) => normal(n) === normal(r.name)));
    if (q) return `quantity:${q.key}`;
    const flows = (unit: string) => r.unit !== undefined && convert(1, r.unit, unit) !== undefined;
    if (/species|tracer|vapou?r|moisture/i.test(r.name) && flows("kg/s")) return "boundary-species";
    if (/mass/i.test(r.name) && flows("kg/s")) return "boundary-mass";
    if (/heat|energy|enthalpy/i.test(r.name) && flows("W")) return "boundary-energy";
    return guessNorm(r.name) ?? "ignore";
  });
}

export type QuantityResult =
  | {
      readonly ok: true;
      readonly quantities: Readonly<Record<string, number>>;
      readonly balance?: BalanceRecord;
      readonly errorNorms: readonly ErrorNorms[];
    }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

/** Values in the case's units, how far fields are from exact ones, and what flows through boundaries as a balance, outward positive and for the whole. */
export function buildQuantities(
  rows: readonly QuantityRow[],
  roles: readonly RowRole[],
  known: readonly Known[],
  fluxes: FluxReading = PLAIN_FLUXES,
): QuantityResult {
  const problems: FileProblem[] = [];
  const quantities: Record<string, number> = {};
  const boundaries = new Map<string, Partial<Record<BoundaryRole, number>>>();
  const errors: NormRow[] = [];
  rows.forEach((row, i) => {
    const role = roles[i] ?? "ignore";
    if (role === "ignore") return;
    if (isNorm(role)) {
      if (row.unit === undefined)
        problems.push({ line: row.line, column: "unit", sentence: `The unit of ${row.name} is not given: type it, or 1 for a pure number.` });
      else errors.push({ ...row, role, unit: row.unit === "-" ? "1" : row.unit });
      return;
    }
    const target = isBoundary(role) ? BOUNDARY_ROLES[role] : (known.find((k) => `quantity:${k.key}` === role)?.unit ?? "");
    const pure = target === "1" || target === "";
    if (row.unit === undefined && !pure) {
      problems.push({ line: row.line, column: "unit", sentence: `The unit of ${row.name} is not given: type it, ${target} or another of its kind.` });
      return;
    }
    const value =
      row.unit === undefined || (pure && (row.unit === "1" || row.unit === "-"))
        ? row.value
        : pure
          ? undefined
          : convert(row.value, row.unit, target);
    if (value === undefined) {
      problems.push({
        line: row.line,
        column: "unit",
        sentence: `"${row.unit}" of ${row.name} cannot be turned into ${pure ? "a pure number" : target}.`,
      });
    } else if (isBoundary(role)) {
      const name = boundaryName(row.name);
      const at = boundaries.get(name) ?? {};
      if (at[role] !== undefined) problems.push({ line: row.line, sentence: `Two rows give the same flow through ${name}.` });
      const sign = signOf(row.name, value, fluxes.signs);
      if (sign === undefined)
        problems.push({
          line: row.line,
          sentence: `Whether ${row.name} goes in or out cannot be told from its name; name it so, or count outward positive.`,
        });
      boundaries.set(name, { ...at, [role]: (sign ?? 1) * value * fluxes.factor });
    } else {
      const key = role.slice("quantity:".length);
      if (key in quantities) problems.push({ line: row.line, sentence: `Two rows are marked as ${key}.` });
      quantities[key] = value;
    }
  });
  const read = normsOf(errors);
  problems.push(...read.problems);
  if (!problems.length && !Object.keys(quantities).length && !boundaries.size && !read.norms.length)
    problems.push({ line: 1, sentence: "No row is marked as a quantity of the case, a flow through a boundary or the error of a field." });
  return problems.length ? { ok: false, problems } : { ok: true, quantities, balance: balanceOf(boundaries, fluxes.factor), errorNorms: read.norms };
}

/** "mass flow inlet" and "heat through inlet" are of one boundary. */
export const boundaryName = (name: string) =>
  name
    .replace(/\b(mass|heat|energy|enthalpy|species|tracer|vapou?r|moisture|force|momentum|[xy])\b/gi, "")
    .replace(/\b(flow|flux|rate|through|of|at|by)\b/gi, "")
    .replace(/[\s,:]+/g, " ")
    .trim() || name;

/**
 * What a figure is multiplied by to count outward.
 * @returns undefined where its name does not say which way it goes
 */
export function signOf(name: string, value: number, signs: FluxReading["signs"]): number | undefined {
  if (signs === "outward") return 1;
  if (signs === "inward") return -1;
  // Everything is positive in the file: the name alone tells the way; a negative figure then runs against its name.
  if (value === 0) return 1;
  return INFLOW.test(name) ? -1 : OUTFLOW.test(name) ? 1 : undefined;
}

/**
 * Flows by boundary as a balance.
 * @param factor parts the whole has, where the model is one of them
 */
export function balanceOf(boundaries: ReadonlyMap<string, Partial<Record<BoundaryRole, number>>>, factor: number): BalanceRecord | undefined {
  if (!boundaries.size) return undefined;
  return {
    ...(factor === 1 ? {} : { factor }),
    boundaries: [...boundaries].map(([name, flows]) => {
      const scalars = {
        ...(flows["boundary-energy"] === undefined ? {} : { energy: [flows["boundary-energy"], 0] as const }),
        ...(flows["boundary-species"] === undefined ? {} : { species: [flows["boundary-species"], 0] as const }),
      };
      return {
        name,
        ...(flows["boundary-mass"] === undefined ? {} : { mass: flows["boundary-mass"] }),
        ...(flows["boundary-x"] === undefined ? {} : { momentumX: [flows["boundary-x"], 0, 0] as const }),
        ...(flows["boundary-y"] === undefined ? {} : { momentumY: [flows["boundary-y"], 0, 0] as const }),
        ...(Object.keys(scalars).length ? { scalars } : {}),
      };
    }),
  };
}
