/** A number as a person types it: a point or a comma, either sign for minus. NaN where it is none. */
export const typedNumber = (text: string): number => (text.trim() === "" ? Number.NaN : Number(text.trim().replace("−", "-").replace(",", ".")));
