import type { z } from "zod";
import type { Sheet } from "../../core/formats/sheet.ts";
import { refuse } from "../desk/confirmed.ts";
import { findReading, type Reading } from "../jobs/readings.ts";
import type { BringInInput } from "./bringInInputs.ts";
import { UseCaseError } from "./failure.ts";

/** The reading of an id, read to its end. @throws {UseCaseError} It is not, or no more. */
export function finishedReading(id: string): Reading & { sheet: Sheet } {
  const reading = findReading(id);
  if (!reading) throw new UseCaseError("not-found", "The file is no longer at hand; choose it again.");
  if (reading.state === "refused") refuse(reading.name, reading.problems);
  if (!reading.sheet) throw new UseCaseError("conflict", "The file is still being read.");
  return reading as Reading & { sheet: Sheet };
}

export type Source = { readonly name: string; readonly text: string } | { readonly name: string; readonly sheet: Sheet; readonly hash: string };

/** The file of a history: its text, where that came along, or the sheet and the blob it was read from before. */
export function sourceOf(history: NonNullable<z.input<typeof BringInInput>["history"]>): Source {
  if (!("reading" in history)) return { name: history.name, text: history.text };
  const { name, sheet, hash } = finishedReading(history.reading);
  if (hash === undefined) throw new UseCaseError("invalid", "A log on the server is followed, not brought in.");
  return { name, sheet, hash };
}
