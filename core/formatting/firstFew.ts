/**
 * The first of a list as words, and how many more there are.
 * @example
 * firstFew(["a", "b", "c"], 2) // "a, b and 1 more"
 */
export const firstFew = (items: readonly (string | number)[], most: number): string =>
  `${items.slice(0, most).join(", ")}${items.length > most ? ` and ${items.length - most} more` : ""}`;
