const MINUS = "−";
/** keeps a figure and its sign on one line */
const GAP = "\u00a0";
const SUPERSCRIPT = "⁰¹²³⁴⁵⁶⁷⁸⁹";

const signed = (text: string): string => text.replace("-", MINUS);

/**
 * A number with a given count of significant digits; powers of ten outside [1e-4, 1e6).
 * @example
 * significant(0.0012345, 3) // "0.00123"
 * significant(1234567, 3) // "1.23×10⁶"
 * significant(-2.5) // "−2.500"
 */
export function significant(x: number, digits = 4): string {
  if (!Number.isFinite(x)) return "–";
  if (x === 0) return "0";
  const size = Math.abs(x);
  if (size >= 1e6 || size < 1e-4) return scientific(x, digits);
  return significantPlain(x, digits);
}

/**
 * A number as its source gave it: no zeros put behind its last digit, at most the given count of digits.
 * @example
 * asGiven(0.4) // "0.4"
 */
export function asGiven(x: number, digits = 7): string {
  const text = significant(x, digits);
  return text.includes(".") ? text.replace(/\.?0+(?=×|$)/, "") : text;
}

/**
 * 3.2e-9 as 3.2 x 10^-9 written with a superscript.
 * @example
 * scientific(3.24e-9) // "3.2×10⁻⁹"
 */
export function scientific(x: number, digits = 2): string {
  if (!Number.isFinite(x)) return "–";
  if (x === 0) return "0";
  const [mantissa, exponent] = x.toExponential(digits - 1).split("e");
  return `${signed(mantissa)}×${powerOfTen(Number(exponent))}`;
}

/**
 * 10 with its exponent raised.
 * @example
 * powerOfTen(-4) // "10⁻⁴"
 */
export function powerOfTen(exponent: number): string {
  const raised = String(Math.abs(exponent)).replace(/\d/g, (d) => SUPERSCRIPT[Number(d)]);
  return `10${exponent < 0 ? "⁻" : ""}${raised}`;
}

/**
 * A fraction as percent; below a millionth in powers of ten, so that 3e-9 does not read 0 %.
 * @example
 * percent(0.0123) // "1.2\u00a0%"
 */
export function percent(fraction: number, digits = 2): string {
  if (!Number.isFinite(fraction)) return "–";
  if (fraction === 0) return `0${GAP}%`;
  const size = Math.abs(fraction);
  if (size < 5e-7) return scientific(fraction, Math.min(2, digits));
  const value = fraction * 100;
  if (Math.abs(value) >= 100) return `${signed(value.toFixed(0))}${GAP}%`;
  return `${significantPlain(value, digits)}${GAP}%`;
}

/**
 * Percent with its sign always shown.
 * @example
 * signedPercent(0.05) // "+5.0\u00a0%"
 * signedPercent(-0.05) // "−5.0\u00a0%"
 */
export function signedPercent(fraction: number, digits = 2): string {
  const text = percent(fraction, digits);
  return fraction > 0 ? `+${text}` : text;
}

/** Significant digits without powers of ten. */
export function significantPlain(x: number, digits: number): string {
  if (x === 0) return "0";
  const rounded = Number(x.toPrecision(digits));
  return signed(rounded.toFixed(Math.max(0, digits - 1 - Math.floor(Math.log10(Math.abs(rounded))))));
}

/**
 * A value with the digits its uncertainty supports: two digits of the uncertainty, the value to the same place.
 * @example
 * withUncertainty(3.14159, 0.012) // "3.142"
 * withUncertainty(3.14159, undefined) // "3.14159"
 */
export function withUncertainty(value: number, uncertainty: number | undefined): string {
  if (uncertainty === undefined || !(uncertainty > 0) || !Number.isFinite(uncertainty)) return significant(value, 6);
  const size = Math.max(Math.abs(value), uncertainty);
  const digits = Math.max(2, Math.min(8, Math.floor(Math.log10(size)) - Math.floor(Math.log10(uncertainty)) + 2));
  return significant(value, digits);
}

/**
 * Whole numbers with thin spaces between thousands.
 * @example
 * count(1020000) // "1\u2009020\u2009000"
 */
export function count(n: number): string {
  return String(Math.round(n)).replace(/\B(?=(\d{3})+$)/g, "\u2009");
}

/**
 * Seconds in the unit a person would use.
 * @example
 * duration(42) // "42 s"
 * duration(3000) // "50 min"
 */
export function duration(seconds: number): string {
  if (seconds < 0.01) return `${significantPlain(Math.max(seconds * 1000, 0.1), 2)} ms`;
  if (seconds < 100) return `${significantPlain(seconds, 2)} s`;
  if (seconds < 6000) return `${Math.round(seconds / 60)} min`;
  return `${significantPlain(seconds / 3600, 2)} h`;
}

/**
 * Unit as printed: m^2/s becomes m²/s, "1" nothing.
 * @example
 * unitText("m^2/s") // "m²/s"
 * unitText("s^-1") // "s⁻¹"
 * unitText("1") // ""
 */
export function unitText(unit: string): string {
  if (unit === "1" || unit === "") return "";
  return unit.replace(/\^(-?)(\d)/g, (_, minus, d) => `${minus ? "⁻" : ""}${SUPERSCRIPT[Number(d)]}`).replace(/ /g, "\u2009");
}

/**
 * What an axis is called, with what it is counted in.
 * @example
 * axisText({ name: "height y", unit: "m" }) // "height y, m"
 * axisText({ name: "phase", unit: "1" }) // "phase"
 */
export function axisText({ name, unit }: { readonly name: string; readonly unit: string }): string {
  const counted = unitText(unit);
  return counted ? `${name}, ${counted}` : name;
}

/**
 * A value with its unit.
 * @example
 * quantityText(277.15, "K", 4) // "277.1\u00a0K"
 */
export function quantityText(value: number, unit: string, digits = 5): string {
  const u = unitText(unit);
  return u ? `${significant(value, digits)}${GAP}${u}` : significant(value, digits);
}

/** A number as a person would type it: no rounding, powers of ten where zeros would be counted. */
export function typedNumber(x: number): string {
  return x !== 0 && (Math.abs(x) < 1e-3 || Math.abs(x) >= 1e7) ? x.toExponential() : String(x);
}

/** A text that begins a sentence. */
export function sentenceCase(text: string): string {
  return text.slice(0, 1).toUpperCase() + text.slice(1);
}
