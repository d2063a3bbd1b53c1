import katex from "katex";
import { writeCsv } from "../../core/formats/csv.ts";
import { averagesOnMesh, fluxesOnMesh } from "../../core/manufactured/onMesh.ts";
import { type Language, latexOf, printed, textOf } from "../../core/manufactured/printed.ts";
import { distanceFromDifferences, exercised, type TermShare, type WrittenSolution } from "../../core/manufactured/written.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import type { MeshSpec } from "../../core/problems/describe/runSettings.ts";
import { exactWritten, exercisedBy, exercisedWords } from "../../core/problems/truth/writtenOut.ts";

export interface WrittenInput {
  readonly problemId: string;
  readonly parameters: Readonly<Record<string, number>>;
  readonly formulas: Readonly<Record<string, string>>;
}

/** A formula as it is shown: set in type unless it is too long to be read. */
export interface ShownFormula {
  readonly key: string;
  readonly name: string;
  readonly unit: string;
  readonly text: string;
  readonly typeset?: string;
}

export interface WrittenShown {
  readonly fields: readonly ShownFormula[];
  readonly sources: readonly ShownFormula[];
  readonly terms: readonly TermShare[];
  /** largest distance of the sources from differences of the fields, a fraction */
  readonly distance: number;
}

/** signs of TeX that are still read as a formula */
const READABLE = 1500;

const solutionOf = (json: string): WrittenSolution => {
  const found = exactWritten(json);
  if (!found) throw new RangeError("This case has no solution that is written out.");
  return found;
};

const shown = (list: WrittenSolution["fields"]): ShownFormula[] =>
  list.map((f) => {
    const tex = latexOf(f);
    const { key, name, unit } = f;
    return { key, name, unit, text: textOf(f), ...(tex.length <= READABLE ? { typeset: katex.renderToString(tex, { displayMode: true }) } : {}) };
  });

/** A manufactured solution as it is shown: fields and sources, the terms they exercise, and the check against differences. */
export function written(input: WrittenInput): WrittenShown {
  const w = solutionOf(JSON.stringify(input));
  return {
    fields: shown(w.fields),
    sources: shown(w.sources),
    terms: exercised(w),
    distance: distanceFromDifferences(w),
  };
}

/** Which terms of the equations the exact solution of a case exercises, in words; empty where they cannot be told. */
export function exercisedText(input: WrittenInput): string {
  const terms = exercisedBy(input);
  return terms ? exercisedWords(terms) : "";
}

export interface OnMeshInput extends WrittenInput {
  readonly what: "cells" | "faces";
  readonly mesh: MeshSpec;
}

/** Exact means over the cells of a mesh, or what flows through its faces exactly, as CSV: at the end where it changes in time. */
export function writtenOnMesh({ what, mesh: spec, ...input }: OnMeshInput): string {
  const w = solutionOf(JSON.stringify(input));
  const mesh = benchProblem(input.problemId).mesh(input.parameters, spec);
  const inTime = w.fields.some((f) => f.formula.usesTime);
  const timeS = inTime ? (input.parameters.endTimeS ?? 0) : 0;
  const { header, columns } = what === "cells" ? averagesOnMesh(w, mesh, timeS) : fluxesOnMesh(w, mesh, timeS, input.parameters.gamma);
  return writeCsv(
    header,
    Array.from({ length: columns[0].length }, (_, i) => columns.map((c) => c[i])),
  );
}

/** A manufactured solution as a file of a language. */
export const writtenFile = ({ language, ...input }: WrittenInput & { readonly language: Language }): string =>
  printed(solutionOf(JSON.stringify(input)), language);
