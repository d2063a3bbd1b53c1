import type { Calibration, Pixel } from "@/core/figure/calibration";
import type { FoundMark, Picture, TracedPlace } from "@/core/figure/trace";

interface ByColour {
  readonly crop: readonly [number, number, number, number];
  /** where the colour is taken from */
  readonly at: Pixel;
  readonly tolerance: number;
}

/** What the page asks of the worker that holds the picture. */
export interface FigureQuestions {
  /** the picture all further questions are about */
  load: { readonly ask: Picture; readonly answer: true };
  trace: { readonly ask: ByColour & { readonly calibration: Calibration; readonly keep: number }; readonly answer: readonly TracedPlace[] };
  marks: { readonly ask: ByColour; readonly answer: readonly FoundMark[] };
}

export type FigureKind = keyof FigureQuestions;
