import { GridFileError } from "./scan.ts";

const POWERS = Float64Array.from({ length: 23 }, (_, k) => Number(`1e${k}`));
/** whole numbers below this are exact in a double */
const EXACT = 2 ** 53;
/** digits that surely fit a whole number of the processor, which is counted up faster than a double */
const SHORT = 9;

/**
 * Numbers that stand as text from one place of a file to another, each the double nearest to it.
 * @param most how many there may be
 * @throws {GridFileError} naming the byte of a word that is no number, or where there are more
 */
export function readAscii(bytes: Uint8Array, from: number, to: number, most: number): Float64Array {
  // Each value takes a sign of its own and one between: a file cannot make this list longer than itself.
  const out = new Float64Array(Math.min(most, (to - from + 1) >> 1));
  let n = 0;
  for (let i = from; i < to; ) {
    if (bytes[i] <= 32) {
      i++;
      continue;
    }
    if (n >= most) throw new GridFileError(`An array has more than the ${most} values it should have.`, i);
    const first = i;
    let whole = 0;
    let d = 0;
    // Most words are a few digits and nothing else.
    const last = i + SHORT < to ? i + SHORT : to;
    while (i < last) {
      d = bytes[i] - 48;
      if (d < 0 || d > 9) break;
      whole = (10 * whole + d) | 0;
      i++;
    }
    if (i > first && (i === to || bytes[i] <= 32)) {
      out[n++] = whole;
      continue;
    }
    while (i < to && bytes[i] > 32) i++;
    out[n++] = wordValue(bytes, first, i);
  }
  return out.subarray(0, n);
}

/** A word as a number: digits are gathered in a whole number, and a power of ten that is exact does the rest; anything longer is left to the language. */
function wordValue(bytes: Uint8Array, from: number, to: number): number {
  let i = from;
  const negative = bytes[i] === 45;
  if (negative || bytes[i] === 43) i++;
  let mantissa = 0;
  let digits = 0;
  let scale = 0;
  let point = false;
  for (; i < to; i++) {
    const d = bytes[i] - 48;
    if (d >= 0 && d <= 9) {
      mantissa = 10 * mantissa + d;
      digits++;
      if (point) scale--;
    } else if (bytes[i] === 46 && !point) point = true;
    else break;
  }
  if (digits && i < to && (bytes[i] | 32) === 101) {
    let k = i + 1;
    const down = bytes[k] === 45;
    if (down || bytes[k] === 43) k++;
    let power = 0;
    const first = k;
    for (; k < to && bytes[k] >= 48 && bytes[k] <= 57 && power < 10_000; k++) power = 10 * power + bytes[k] - 48;
    if (k > first) {
      scale += down ? -power : power;
      i = k;
    }
  }
  if (!digits || i !== to || mantissa >= EXACT || scale > 22 || scale < -22) return slowly(bytes, from, to);
  const value = scale < 0 ? mantissa / POWERS[-scale] : mantissa * POWERS[scale];
  return negative ? -value : value;
}

function slowly(bytes: Uint8Array, from: number, to: number): number {
  let word = "";
  for (let i = from; i < Math.min(to, from + 400); i++) word += String.fromCharCode(bytes[i]);
  if (/^[-+]?nan(\(\w*\))?$/i.test(word)) return Number.NaN;
  if (/^[-+]?inf(inity)?$/i.test(word)) return word[0] === "-" ? Number.NEGATIVE_INFINITY : Number.POSITIVE_INFINITY;
  const value = /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(word) ? Number(word) : Number.NaN;
  if (Number.isNaN(value)) throw new GridFileError(`"${word.slice(0, 30)}" is no number.`, from);
  return value;
}
