import { asker } from "../engine/asker";
import type { FigureKind, FigureQuestions } from "./asks";

const put = asker(
  () => new Worker(new URL("./figure.worker.ts", import.meta.url), { type: "module" }),
  "The part that reads pictures broke off. Choose the picture again.",
);

/** Asks the worker that holds the picture. */
export const askFigure = <K extends FigureKind>(kind: K, ask: FigureQuestions[K]["ask"]): Promise<FigureQuestions[K]["answer"]> =>
  put(kind, () => ask);
