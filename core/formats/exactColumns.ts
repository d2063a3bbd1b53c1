import { writeCsv } from "./csv.ts";

/** Words of the W3C's double for what is no number, and the zero that JavaScript prints without its sign. */
const wordOf = (v: number): string => {
  if (Number.isFinite(v)) return Object.is(v, -0) ? "-0" : String(v);
  return Number.isNaN(v) ? "NaN" : v > 0 ? "INF" : "-INF";
};

const NAMED: Readonly<Record<string, number>> = { NaN: Number.NaN, INF: Number.POSITIVE_INFINITY, "-INF": Number.NEGATIVE_INFINITY };

function numberOf(word: string): number {
  const value = NAMED[word] ?? (word.trim() === "" ? undefined : Number(word));
  if (value === undefined || (Number.isNaN(value) && word !== "NaN")) throw new RangeError(`"${word.slice(0, 40)}" is no number.`);
  return value;
}

/**
 * Columns as comma-separated text that reads back to the same bits.
 * @param names header, one for each column
 * @param columns all of one length
 */
export function writeExactColumns(names: readonly string[], columns: readonly ArrayLike<number>[]): string {
  const lines = [writeCsv(names, []).trimEnd()];
  for (let i = 0; i < (columns[0]?.length ?? 0); i++) lines.push(columns.map((c) => wordOf(c[i])).join(","));
  return `${lines.join("\n")}\n`;
}

/**
 * The first columns of such a text, one after the other as they are stored; what else it holds was worked out of them.
 * @param count how many columns are wanted
 * @throws {RangeError} naming the line, where one is missing or no number
 */
export function readExactColumns(text: string, count: number): Float64Array {
  const lines = text.replace(/\n$/, "").split("\n").slice(1);
  const out = new Float64Array(lines.length * count);
  lines.forEach((line, i) => {
    const words = line.split(",");
    if (words.length < count) throw new RangeError(`Line ${i + 2} has ${words.length} of ${count} columns.`);
    try {
      for (let k = 0; k < count; k++) out[k * lines.length + i] = numberOf(words[k]);
    } catch (error) {
      throw new RangeError(`Line ${i + 2}: ${(error as Error).message}`, { cause: error });
    }
  });
  return out;
}
