import Papa from "papaparse";

/** A line of a file. */
export interface Line {
  /** counted from 1 */
  readonly number: number;
  readonly text: string;
}

/** what a comment begins with */
export const COMMENT = /^(#|%|\/\/|!)/;

// Every number is read in one way only: with two ways a long row of digits would be tried in all of them.
const NUMBER = "[-+]?(?:\\d+(?:\\.\\d*)?|\\.\\d+)(?:[eEdD][-+]?\\d+)?";
/** numbers in brackets, such as a position */
export const VECTOR = new RegExp(`\\(\\s*${NUMBER}(?:[\\s,]+${NUMBER}){1,8}\\s*\\)`);
const BRACKETS = new RegExp(`\\(\\s*(${NUMBER}(?:[\\s,]+${NUMBER}){1,8})\\s*\\)`, "g");

/** between the components of a vector, whatever the delimiter of the file: found again when the line is split */
const JOINT = "\u0001";
const openVector = (inside: string) =>
  inside
    .trim()
    .split(/[\s,]+/)
    .join(JOINT);
/** A line with the components of its vectors as cells of their own. */
export const openVectors = (text: string) => (text.includes("(") ? text.replace(BRACKETS, (_, inside: string) => openVector(inside)) : text);

const FIRST_NUMBER = new RegExp(`^\\s*["']?${NUMBER}(?=[\\s,;"'${JOINT}]|$)`);
/** Does a line begin like a row: its first cell is a number? */
export const isNumeric = (text: string) => FIRST_NUMBER.test(text);

/** What names the columns. */
export interface Header {
  readonly names: readonly string[];
  readonly units?: readonly (string | undefined)[];
  readonly line: number;
}

/** Where the rows begin at once, the nearest comment above with as many cells names them. */
export function commentHeader(lines: readonly Line[], first: Line, delimiter: string): Header | undefined {
  const cells = split(first.text, delimiter).length;
  const above = lines.filter((l) => l.number < first.number).reverse();
  const worded = above.flatMap((l) => {
    const names = split(l.text.trim().replace(COMMENT, "").trim(), delimiter);
    return names.length === cells && names.every((n) => n !== "" && (!isNumeric(n) || n === "1")) ? [{ names, line: l.number }] : [];
  });
  const [nearest, next] = worded;
  if (!nearest || namesProblem(nearest.names)) return nearest;
  // Names and units may stand in two comments, the units below.
  if (next && next.line === nearest.line - 1 && looksLikeUnits(nearest.names)) return { ...next, units: nearest.names.map(unitCell) };
  return nearest;
}

const bareUnit = (u: string) => u.replace(/^[[(]\s*|\s*[\])]$/g, "");
const unitCell = (u: string) => (u === "" ? undefined : bareUnit(u) === "-" ? "1" : bareUnit(u));

/** A line of units: every cell may be one, and some can be nothing else. */
function looksLikeUnits(cells: readonly string[]): boolean {
  return (
    cells.filter((c) => c === "" || UNITS.test(c)).length >= UNIT_LINE_SHARE * cells.length &&
    cells.some((c) => /^[[(]|^(s|m|Pa|N|K|W|kg|Hz|-|1|%)$|\//.test(c))
  );
}

const UNITS = /^([[(].*[\])]|-|1|%|[a-zA-Zµμ°Ω²³]{1,4}([*/^·.\s-]?[a-zA-Zµμ°\d²³-]{1,4}){0,4})$/;
const UNIT_LINE_SHARE = 0.99;

/** columns a record may have */
export const MOST_COLUMNS = 400;
/** characters of a column's name */
const LONGEST_NAME = 200;

/** Why names cannot be those of columns: there are too many, or one is too long to be a name. */
export function namesProblem(names: readonly string[]): string | undefined {
  if (names.length > MOST_COLUMNS) return `${names.length} columns are more than the ${MOST_COLUMNS} a record may have; leave some out.`;
  const k = names.findIndex((n) => n.length > LONGEST_NAME);
  if (k < 0) return undefined;
  return `The name of column ${k + 1} has ${names[k].length} characters, "${names[k].slice(0, 20)}…"; ${LONGEST_NAME} is the most.`;
}

/** Lines above the rows: one of names, perhaps others of titles, groups or units. */
export function headerOf(lines: readonly Line[], delimiter: string): Header | undefined {
  const cells = lines.map((l) => split(l.text, delimiter));
  const most = Math.max(...cells.map((c) => c.length));
  // A title above the names has fewer cells than they have.
  const kept = lines.map((l, i) => ({ line: l.number, cells: cells[i] })).filter((l) => l.cells.length === most);
  if (!kept.length) return undefined;
  const last = kept[kept.length - 1];
  if (namesProblem(last.cells)) return { names: last.cells, line: last.line };
  const isUnits = kept.length > 1 && looksLikeUnits(last.cells);
  const naming = isUnits ? kept.slice(0, -1) : kept;
  const names = naming[0].cells.map((_, k) =>
    naming
      .map((l) => l.cells[k])
      .filter((c) => c !== "")
      .join(" "),
  );
  const units = isUnits ? last.cells.map(unitCell) : undefined;
  return { names, units, line: naming[naming.length - 1].line };
}

/** Names of the components of vector columns: position x, position y, position z. */
export function withComponents(names: readonly string[], plain: readonly Line[], numericFrom: number, delimiter: string): string[][] {
  const row = plain[Math.max(0, numericFrom)];
  const marked = split(openVectors(row.text), delimiter, false);
  if (marked.length !== names.length) return names.map((n) => [n]);
  return names.map((name, k) => {
    const parts = marked[k].split(JOINT).length;
    if (parts === 1) return [name];
    const unit = name.match(/\s*[([][^)\]]*[)\]]\s*$/)?.[0] ?? "";
    const bare = name.slice(0, name.length - unit.length);
    return Array.from({ length: parts }, (_, i) => `${bare} ${parts <= 3 ? "xyz"[i] : i + 1}${unit}`);
  });
}

/** The sign most lines are cut by into as many cells as the first. */
export function findDelimiter(sample: readonly string[]): string {
  for (const d of ["\t", ";", ","]) {
    const counts = sample.map((l) => split(l, d, false).length);
    if (counts[0] > 1 && counts.filter((c) => c === counts[0]).length >= counts.length * 0.7) return d;
  }
  return sample[0].includes(",") ? "," : " ";
}

/** Cells of a line. @param components the parts of a vector are cells of their own */
export function split(line: string, delimiter: string, components = true): string[] {
  const cells = delimiter === " " ? line.trim().split(/\s+/) : cellsOf(line, delimiter).map((c) => c.trim());
  return components && line.includes(JOINT) ? cells.flatMap((c) => c.split(JOINT)) : cells;
}

/** Quotes are rare in records: only a line that has some is given to the parser. */
function cellsOf(line: string, delimiter: string): string[] {
  return line.includes('"') ? (Papa.parse<string[]>(line, { delimiter }).data[0] ?? []) : line.split(delimiter);
}

/** The bracket of a logarithm holds no unit. */
export const LOGARITHM = /^\s*(log_?10|log|lg|ln)\s*\(/i;

/** The unit in brackets behind a name; "1" where it says there is none. */
export function unitOf(name: string): string | undefined {
  if (LOGARITHM.test(name)) return undefined;
  const inside = name.match(/[([]\s*([^)\]]+?)\s*[)\]]\s*$/)?.[1];
  return inside === "-" ? "1" : inside;
}
