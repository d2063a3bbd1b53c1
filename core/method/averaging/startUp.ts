import { rulesOf } from "../../remarks/rule.ts";
export interface StartUpCut {
  /** samples to leave out at the beginning */
  readonly samples: number;
  /** the best cut lies at the end of what may be cut: the record never leaves its start-up */
  readonly tooShort: boolean;
}

const BATCH = 5;

/**
 * Length of the start-up by the marginal standard error of what is left, on means of five samples; at most half the record is cut.
 * @source White, Simulation 69 (1997) 323 (MSER-5).
 */
export function startUpCut(values: Float64Array): StartUpCut {
  const batches = Math.floor(values.length / BATCH);
  if (batches < 4) return { samples: 0, tooShort: true };
  const means = new Float64Array(batches);
  for (let b = 0; b < batches; b++) {
    let sum = 0;
    for (let k = 0; k < BATCH; k++) sum += values[b * BATCH + k];
    means[b] = sum / BATCH;
  }
  const centre = means.reduce((s, x) => s + x, 0) / batches;
  const most = Math.floor(batches / 2);
  let [sum, squares, best, at] = [0, 0, Number.POSITIVE_INFINITY, 0];
  for (let b = batches - 1; b >= 0; b--) {
    const d = means[b] - centre;
    sum += d;
    squares += d * d;
    const left = batches - b;
    if (b > most) continue;
    const error = (squares - (sum * sum) / left) / (left * left);
    if (error <= best) [best, at] = [error, b];
  }
  return { samples: at * BATCH, tooShort: at >= most };
}

/** The rules of this file in words. */
export const START_UP_RULES = rulesOf("core/method/averaging/startUp.ts", [
  {
    rule: "average-too-short",
    text: "The start-up is cut where the marginal standard error of what is left is least (means of five samples). A cut at half the record means it never left its start-up.",
    source: "White 1997",
  },
]);
