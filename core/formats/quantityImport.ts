import type { BalanceRecord } from "../balance/balance.ts";
import { convert } from "../units/units.ts";
import { type DelimitedTable, type FileProblem, numberOf } from "./delimited.ts";

/** What a row of a quantities table becomes. */
export type RowRole = "ignore" | "boundary-mass" | `quantity:${string}`;

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
    return /mass/i.test(r.name) && r.unit && convert(1, r.unit, "kg/s") !== undefined ? "boundary-mass" : "ignore";
  });
}

export type QuantityResult =
  | { readonly ok: true; readonly quantities: Readonly<Record<string, number>>; readonly balance?: BalanceRecord }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

/** Values in the case's units, and boundary masses (outward positive) as a balance. */
export function buildQuantities(rows: readonly QuantityRow[], roles: readonly RowRole[], known: readonly Known[]): QuantityResult {
  const problems: FileProblem[] = [];
  const quantities: Record<string, number> = {};
  const boundaries: { name: string; mass: number }[] = [];
  rows.forEach((row, i) => {
    const role = roles[i] ?? "ignore";
    if (role === "ignore") return;
    const target = role === "boundary-mass" ? "kg/s" : (known.find((k) => `quantity:${k.key}` === role)?.unit ?? "");
    const pure = target === "1" || target === "";
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
    } else if (role === "boundary-mass") {
      boundaries.push({ name: row.name.replace(/^mass\s*(flow|flux)?\s*(through|of|at)?\s*/i, "") || row.name, mass: value });
    } else {
      const key = role.slice("quantity:".length);
      if (key in quantities) problems.push({ line: row.line, sentence: `Two rows are marked as ${key}.` });
      quantities[key] = value;
    }
  });
  if (!problems.length && !Object.keys(quantities).length) problems.push({ line: 1, sentence: "No row is marked as a quantity of the case." });
  return problems.length ? { ok: false, problems } : { ok: true, quantities, balance: boundaries.length ? { boundaries } : undefined };
}
