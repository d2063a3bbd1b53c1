import type { FileProblem } from "../formats/delimited.ts";
import type { Sheet } from "../formats/sheet.ts";
import { conversion } from "../units/conversion.ts";
import type { ColumnRole } from "./columnRoles.ts";

const MOST_PROBLEMS = 12;

/** Columns of a sheet as numbers in the units that are wanted, with what is wrong of them, said once and at its place. */
export interface ColumnReader {
  /** the first dozen things that are wrong */
  readonly problems: readonly FileProblem[];
  readonly problem: (p: FileProblem) => void;
  /** where a column as a whole is spoken of */
  readonly whole: (column: number) => Pick<FileProblem, "line" | "column">;
  /** where a single entry is spoken of */
  readonly entry: (row: number, column: number) => Pick<FileProblem, "line" | "column">;
  /**
   * Numbers of a column, in the unit `target` where one is given ("" or "1" for a pure number).
   * What cannot be turned into it is a problem, and comes back as it stands.
   */
  readonly read: (column: number, target?: string) => Float64Array;
  /** a column that must not have gaps; `words` is what it is */
  readonly readWhole: (column: number, words: string, target?: string) => Float64Array;
  /** the only column of a role, -1 where there is none; two of them are a problem */
  readonly only: (role: ColumnRole, words: string) => number;
}

const isPure = (unit: string) => unit === "" || unit === "1";

/** @param units units of the columns, where a person corrected them as that person says */
export function columnReader(sheet: Sheet, roles: readonly ColumnRole[], units: readonly (string | undefined)[]): ColumnReader {
  const problems: FileProblem[] = [];
  const problem = (p: FileProblem) => {
    if (problems.length < MOST_PROBLEMS) problems.push(p);
  };
  const whole = (column: number) => ({ line: sheet.lines[0] ?? 1, column: sheet.header[column] });
  const entry = (row: number, column: number) => ({ line: sheet.lines[row], column: sheet.header[column] });
  const read = (column: number, target?: string): Float64Array => {
    for (const p of sheet.faults[column]) problem(p);
    const values = sheet.columns[column];
    const unit = units[column];
    if (target === undefined) return values;
    if (unit === undefined) {
      if (!isPure(target))
        problem({ ...whole(column), sentence: `The unit of "${sheet.header[column]}" is not given: type it, ${target} or another of its kind.` });
      return values;
    }
    const turn = conversion(unit, target)?.turn;
    if (!turn)
      problem({
        ...whole(column),
        sentence: `"${unit}" cannot be turned into ${isPure(target) ? "a pure number" : target}; correct the unit or what the column is.`,
      });
    return turn && unit !== target ? values.map(turn) : values;
  };
  const readWhole = (column: number, words: string, target?: string) => {
    const values = read(column, target);
    for (let i = 0; i < values.length && problems.length < MOST_PROBLEMS; i++)
      if (!Number.isFinite(values[i])) problem({ ...entry(i, column), sentence: `The ${words} is missing.` });
    return values;
  };
  const only = (role: ColumnRole, words: string) => {
    if (roles.filter((r) => r === role).length > 1) problem({ line: 1, sentence: `Two columns are marked as the ${words}.` });
    return roles.indexOf(role);
  };
  return { problems, problem, whole, entry, read, readWhole, only };
}
