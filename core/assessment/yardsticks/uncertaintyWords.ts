import type { Reference } from "../../records/reference.ts";

/**
 * What the uncertainties of a yardstick's values are: said once where it is the same of all, else with the values it is said of.
 * @param nameOf the name of a quantity
 * @example
 * uncertaintyWords([{ quantityKey: "q", value: 1, uncertaintyNote: "exact" }], (key) => key) // "exact"
 */
export function uncertaintyWords(values: Reference["values"], nameOf: (quantityKey: string) => string): string {
  const notes = [...new Set(values.map((v) => v.uncertaintyNote))];
  if (notes.length < 2) return notes.join("");
  return notes
    .map((note) => {
      const names = values.filter((v) => v.uncertaintyNote === note).map((v) => nameOf(v.quantityKey));
      return `${note} (${names.join(", ")})`;
    })
    .join("; ");
}
