/**
 * A cell as a number; decimal commas count where the delimiter is no comma. NaN for a stated gap, undefined for anything else.
 * @example
 * numberOf("1,5", ";") // 1.5
 * numberOf("n/a", ",") // Number.NaN
 * numberOf("warm", ",") // undefined
 */
export function numberOf(cell: string, delimiter: string): number | undefined {
  const plain = cell === "" ? Number.NaN : Number(cell);
  if (Number.isFinite(plain)) return plain;
  const text = delimiter === "," ? cell : cell.replace(/^([-+]?\d*),(\d+)/, "$1.$2");
  if (text === "" || /^([-+]?(nan|inf|infinity)(\([a-z]*\))?|na|n\/a|-+|\*+|null)$/i.test(text)) return Number.NaN;
  const value = Number(text.replace(/[dD](?=[-+]?\d+$)/, "e"));
  return Number.isFinite(value) ? value : undefined;
}
