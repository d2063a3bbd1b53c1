import katex from "katex";
import { explore } from "@/core/exact/explore";
import { ranked } from "@/core/exact/fitting";
import { findSolution, LIBRARY } from "@/core/exact/library";
import type { Solution } from "@/core/exact/solution";
import { answering } from "../engine/answering";
import type { LibraryKind, LibraryQuestions } from "./asks";

type Answers = { readonly [K in LibraryKind]: (ask: LibraryQuestions[K]["ask"]) => LibraryQuestions[K]["answer"] };

function solutionOf(id: string): Solution {
  const found = findSolution(id);
  if (!found) throw new Error(`The library has no solution called ${id}.`);
  return found;
}

const ANSWERS: Answers = {
  list: ({ conditions }) => {
    const listed = ({ id, name, subject, nature, words }: Solution) => ({ id, name, subject, nature, words });
    return conditions ? ranked(conditions).map(({ solution, fit }) => ({ ...listed(solution), fit })) : LIBRARY.map(listed);
  },
  show: ({ id }) => {
    const { name, subject, nature, source, uncertainty, uncertaintyNote, formulas, parameters } = solutionOf(id);
    return {
      id,
      name,
      subject,
      nature,
      source,
      uncertainty,
      uncertaintyNote,
      formulas: formulas.map((f) => katex.renderToString(f, { displayMode: true })),
      parameters,
      symbols: parameters.map((p) => (p.symbol ? katex.renderToString(p.symbol) : "")),
    };
  },
  explore: ({ id, typed, samples }) => explore(solutionOf(id), typed, samples),
};

answering(ANSWERS);
