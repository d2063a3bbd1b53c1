import { z } from "zod";
import { entryText, typedText } from "../../core/units/entry.ts";
import { parseDifference, parseQuantity } from "../../core/units/units.ts";
import { UseCaseError } from "./failure.ts";

/** A figure as typed, with its unit. */
export const typed = z.string().max(60);

/** Reads what was typed into SI, collecting every mistake by the field it stands in. */
export class Reader {
  readonly mistakes: Record<string, string> = {};
  /** what was taken for granted, to be said */
  readonly said: string[] = [];
  /** entries as they were typed, by field */
  readonly typed: Record<string, string> = {};

  required(field: string, text: string, unit: string, min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY): number {
    const parsed = parseQuantity(text, unit);
    if (!parsed.ok) {
      this.mistakes[field] = parsed.sentence;
      return Number.NaN;
    }
    if (parsed.said) this.said.push(parsed.said);
    this.typed[field] = typedText(text, unit);
    if (!(parsed.si >= min && parsed.si <= max)) this.mistakes[field] = `${text} is outside ${min} to ${max}${unit ? ` ${unit}` : ""}.`;
    return parsed.si;
  }

  optional(field: string, text: string, unit: string, min?: number): number | undefined {
    return text.trim() === "" ? undefined : this.required(field, text, unit, min);
  }

  /** The stored value where its field still shows it unchanged, to its last bit; else what was typed. */
  kept(field: string, text: string, unit: string, stored: { readonly si?: number; readonly typed?: string }, min?: number, max?: number): number {
    if (stored.si === undefined || text.trim() !== entryText(stored.typed, stored.si, unit)) return this.required(field, text, unit, min, max);
    if (stored.typed !== undefined) this.typed[field] = stored.typed;
    return stored.si;
  }

  optionalKept(
    field: string,
    text: string,
    unit: string,
    stored: { readonly si?: number; readonly typed?: string },
    min?: number,
  ): number | undefined {
    return text.trim() === "" ? undefined : this.kept(field, text, unit, stored, min);
  }

  /** An uncertainty: a share of a value in percent, or a difference in its unit. */
  uncertainty(field: string, text: string, unit: string, value: number): number | undefined {
    if (text.trim() === "") return undefined;
    const share = text.trim().endsWith("%") && unit !== "" && unit !== "1";
    const parsed = share ? parseQuantity(text, "") : parseDifference(text, unit);
    if (!parsed.ok) {
      this.mistakes[field] = parsed.sentence;
      return undefined;
    }
    const size = share ? parsed.si * Math.abs(value) : parsed.si;
    if (!(size >= 0)) this.mistakes[field] = "An uncertainty cannot be negative.";
    return size;
  }

  done(): void {
    const count = Object.keys(this.mistakes).length;
    if (count)
      throw new UseCaseError(
        "invalid",
        count === 1 ? Object.values(this.mistakes)[0] : `${count} entries cannot be used; each says why.`,
        this.mistakes,
      );
  }
}
