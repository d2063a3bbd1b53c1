import { z } from "zod";
import { parseQuantity } from "../../core/units/units.ts";
import { UseCaseError } from "./failure.ts";

/** A figure as typed, with its unit. */
export const typed = z.string().max(60);

/** Reads what was typed into SI, collecting every mistake by the field it stands in. */
export class Reader {
  readonly mistakes: Record<string, string> = {};

  required(field: string, text: string, unit: string, min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY): number {
    const parsed = parseQuantity(text, unit);
    if (!parsed.ok) {
      this.mistakes[field] = parsed.sentence;
      return Number.NaN;
    }
    if (!(parsed.si >= min && parsed.si <= max)) this.mistakes[field] = `${text} is outside ${min} to ${max}${unit ? ` ${unit}` : ""}.`;
    return parsed.si;
  }

  optional(field: string, text: string, unit: string, min?: number): number | undefined {
    return text.trim() === "" ? undefined : this.required(field, text, unit, min);
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
