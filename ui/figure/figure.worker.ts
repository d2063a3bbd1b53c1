import type { Pixel } from "@/core/figure/calibration";
import { findMarks, inkNear, type Picture, thinTrace, traceCurve } from "@/core/figure/trace";
import { answering } from "../engine/answering";
import type { FigureKind, FigureQuestions } from "./asks";

let picture: Picture | undefined;

function held(): Picture {
  if (!picture) throw new Error("There is no picture. Choose it again.");
  return picture;
}

function inkAt(at: Pixel) {
  const found = inkNear(held(), at);
  if (!found) throw new Error("There is nothing but paper there: press on the curve itself.");
  return found;
}

type Answers = { readonly [K in FigureKind]: (ask: FigureQuestions[K]["ask"]) => FigureQuestions[K]["answer"] };

const ANSWERS: Answers = {
  load: (sent) => {
    picture = sent;
    return true;
  },
  trace: ({ crop, at, tolerance, calibration, keep }) => {
    const ink = inkAt(at);
    return thinTrace(traceCurve({ picture: held(), crop, calibration, colour: ink.colour, tolerance, start: ink.at }), keep);
  },
  marks: ({ crop, at, tolerance }) => findMarks({ picture: held(), crop, colour: inkAt(at).colour, tolerance }),
};

answering(ANSWERS);
