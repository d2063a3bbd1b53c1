import Papa from "papaparse";

/**
 * Comma-separated text; words, names of columns too, that a spreadsheet would take for formulas are defused with an apostrophe.
 * @example
 * writeCsv(["name", "drag (N)"], [["=1+1", 2.5]]) // "name,drag (N)\n'=1+1,2.5\n"
 */
export function writeCsv(header: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  const safe = (c: string | number) => (typeof c === "number" ? String(c) : /^[=+\-@\t\r]/.test(c) && !Number.isFinite(Number(c)) ? `'${c}` : c);
  return `${Papa.unparse({ fields: header.map((h) => String(safe(h))), data: rows.map((r) => r.map(safe)) }, { newline: "\n" })}\n`;
}
