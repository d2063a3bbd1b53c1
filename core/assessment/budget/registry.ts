import type { SourceKey } from "../../records/settlement.ts";
import { averaging } from "./sources/averaging.ts";
import { balance } from "./sources/balance.ts";
import { domain } from "./sources/domain.ts";
import { inputs } from "./sources/inputs.ts";
import { iteration } from "./sources/iteration.ts";
import { mesh } from "./sources/mesh.ts";
import { reference } from "./sources/reference.ts";
import { roundOff } from "./sources/roundOff.ts";
import type { SourceAssessor } from "./sources/source.ts";
import { timeStep } from "./sources/timeStep.ts";

/** The error sources of a quantity, in the order they are listed. */
export const SOURCES: readonly SourceAssessor[] = [roundOff, iteration, averaging, mesh, timeStep, balance, domain, inputs, reference];

export const SOURCE_KEYS: readonly SourceKey[] = SOURCES.map((s) => s.key);

/** @throws {RangeError} There is no such source. */
export function sourceOf(key: SourceKey): SourceAssessor {
  const found = SOURCES.find((s) => s.key === key);
  if (!found) throw new RangeError(`There is no error source "${key}".`);
  return found;
}
