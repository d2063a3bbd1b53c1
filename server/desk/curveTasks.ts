import type { FileProblem } from "../../core/formats/delimited.ts";
import { readSheet, type Sheet } from "../../core/formats/sheet.ts";
import { type CurveMapping, type CurveRole, guessCurveRoles, type ReadCurve, readCurves } from "../../core/intake/curveImport.ts";
import { refuse } from "./confirmed.ts";

export interface CurvesInput {
  readonly file: { readonly name: string; readonly text: string } | { readonly name: string; readonly sheet: Sheet };
  /** absent for a first look: roles are guessed then */
  readonly mapping?: Omit<CurveMapping, "units"> & { readonly units: readonly (string | null | undefined)[] };
}

/** A table of curves with what its columns seem to be, and the curves they make. */
export interface CurvesFound {
  readonly header: readonly string[];
  readonly units: readonly (string | null)[];
  readonly rows: number;
  readonly sample: readonly (readonly string[])[];
  readonly roles: readonly CurveRole[];
  readonly curves: readonly ReadCurve[];
  readonly notes: readonly string[];
  readonly problems: readonly FileProblem[];
}

/** points of curves are drawn, listed and kept with the case: a longer table is a record */
const MOST_ROWS = 400_000;

/** Reads a table of curves; what is wrong of it is told with its place. @throws {UseCaseError} it is no table */
export function readCurveFile({ file, mapping }: CurvesInput): CurvesFound {
  const read = "sheet" in file ? ({ ok: true, sheet: file.sheet } as const) : readSheet(file.text);
  if (!read.ok) return refuse(file.name, read.problems);
  const { sheet } = read;
  if (sheet.rows > MOST_ROWS)
    return refuse(file.name, [
      { line: 1, sentence: `A table of curves may have ${MOST_ROWS} rows; this one has ${sheet.rows}. Thin it, or bring it in as a record.` },
    ]);
  const roles = mapping?.roles ?? guessCurveRoles(sheet);
  const units = sheet.units.map((u, i) => (mapping ? (mapping.units[i] ?? undefined) : u));
  const built = readCurves(sheet, { coverage: 2, ...mapping, roles, units });
  return {
    header: sheet.header,
    units: units.map((u) => u ?? null),
    rows: sheet.rows,
    sample: sheet.sample,
    roles,
    curves: built.ok ? built.curves : [],
    notes: built.ok ? built.notes : [],
    problems: built.ok ? [] : built.problems,
  };
}
