import katex from "katex";
import { explore } from "@/core/exact/explore";
import { fitOf } from "@/core/exact/fitting";
import { findSolution, LIBRARY } from "@/core/exact/library";
import type { Solution } from "@/core/exact/solution";
import type { LibraryAnswered, LibraryAsked, LibraryKind, LibraryQuestions } from "./asks";

type Answers = { readonly [K in LibraryKind]: (ask: LibraryQuestions[K]["ask"]) => LibraryQuestions[K]["answer"] };

function solutionOf(id: string): Solution {
  const found = findSolution(id);
  if (!found) throw new Error(`The library has no solution called ${id}.`);
  return found;
}

const ANSWERS: Answers = {
  list: ({ conditions }) => {
    const all = LIBRARY.map(({ id, name, subject, nature, words }, i) => ({
      id,
      name,
      subject,
      nature,
      words,
      ...(conditions ? { fit: fitOf(LIBRARY[i], conditions) } : {}),
    }));
    return conditions ? all.sort((a, b) => (a.fit?.rank ?? 0) - (b.fit?.rank ?? 0)) : all;
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

self.onmessage = ({ data }: MessageEvent<LibraryAsked>) => {
  let answered: LibraryAnswered;
  try {
    answered = { id: data.id, ok: true, answer: (ANSWERS[data.kind] as (ask: unknown) => unknown)(data.ask) };
  } catch (error) {
    answered = { id: data.id, ok: false, sentence: error instanceof Error ? error.message : String(error) };
  }
  self.postMessage(answered);
};
