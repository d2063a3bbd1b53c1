import { create, createUnitDependencies, type MathJsInstance, unitDependencies } from "mathjs";

/** Everyday units the package does not know. */
const MORE_UNITS: Readonly<Record<string, string>> = {
  mph: "0.44704 m/s",
  kph: "0.2777777777777778 m/s",
  knot: "0.5144444444444445 m/s",
  poise: "0.1 Pa s",
  cP: "0.001 Pa s",
  stokes: "1e-4 m^2/s",
  cSt: "1e-6 m^2/s",
  rpm: "0.016666666666666666 s^-1",
  micron: "1e-6 m",
  impgallon: "0.00454609 m^3",
  cfm: "4.719474432e-4 m^3/s",
  inH2O: "249.08891 Pa",
};

interface Units {
  readonly unit: MathJsInstance["unit"];
  readonly createUnit: MathJsInstance["createUnit"];
}

const taught = new WeakSet<Units>();

/** An instance of the package with the units above; a thread that reads no unit makes none. */
export function withUnits<U extends Units>(math: U): U {
  if (!taught.has(math)) for (const [name, definition] of Object.entries(MORE_UNITS)) math.createUnit(name, definition);
  taught.add(math);
  return math;
}

const own = create({ unitDependencies, createUnitDependencies });
const unitOf = (value: number, unit: string) => withUnits(own).unit(value, unit);

/** characters of a number with its unit; what is longer is none, and is not looked at */
const LONGEST = 120;

export type ParsedQuantity =
  | {
      readonly ok: true;
      /** in the SI unit asked for */
      readonly si: number;
      /** what was taken for granted, where anything was */
      readonly said?: string;
    }
  | { readonly ok: false; readonly sentence: string };

/** The package writes degC and the like; people write °C, ², ·. */
function plainUnit(text: string): string {
  return text
    .trim()
    .replace(/°\s*C\b|\bdegrees?\s*C\b|\bcelsius\b/gi, "degC")
    .replace(/°\s*F\b|\bdegrees?\s*F\b|\bfahrenheit\b/gi, "degF")
    .replace(/^(deg\s*)?C$/, "degC")
    .replace(/²/g, "^2")
    .replace(/³/g, "^3")
    .replace(/⁻¹/g, "^-1")
    .replace(/[·⋅×]/g, "*")
    .replace(/μ|µ/g, "u")
    .replace(/\blitres?\b|\bliters?\b/gi, "litre")
    .replace(/\b(imperial|imp|uk)\.?\s*gal(lon)?s?\b/gi, "impgallon")
    .replace(/\bus\.?\s*gal(lon)?s?\b/gi, "gallon")
    .replace(/\binches\b/gi, "inch")
    .replace(/\bkm\/h\b/gi, "kph")
    .replace(/\bMPH\b/gi, "mph")
    .replace(/^1\s*\/\s*\(?([A-Za-z]+)\)?$/, "$1^-1")
    .replace(/\bkg\/ms\b/, "kg/(m s)")
    .replace(/\bSt\b/, "stokes");
}

type Figure = { readonly ok: true; readonly value: number; readonly rest: string } | { readonly ok: false; readonly sentence: string };

/** The number a text begins with. Commas and points that could mean thousands or decimals are asked about. */
function figureOf(text: string): Figure {
  const clean = text.trim().replace(/−/g, "-");
  const found = clean.match(/^([-+]?(?:\d{1,3}(?:[\u2009\u202f\u00a0 ']\d{3})+(?!\d)(?:[.,]\d+)?|[\d.,]*\d\.?))((?:[eE][-+]?\d+)?)(?![\d.,])(.*)$/s);
  if (!found) return { ok: false, sentence: `"${text}" does not begin with a number.` };
  const body = found[1].trim();
  const grouped = body.replace(/[\u2009\u202f\u00a0 ']/g, " ");
  const read = numberIn(grouped);
  if ("sentence" in read) return { ok: false, sentence: read.sentence };
  const rest = found[3].trim();
  if (/^\d/.test(rest) && !/^1\s*\//.test(rest)) return { ok: false, sentence: `"${text}" holds two numbers.` };
  const figure = Number(`${read.digits}${found[2]}`);
  return Number.isFinite(figure) ? { ok: true, value: figure, rest } : { ok: false, sentence: `"${body}" is not a number.` };
}

/** A number from digits, points, commas and blanks as digits with a point, or the sentence that asks what it means. */
function numberIn(text: string): { digits: string } | { sentence: string } {
  const sign = text.startsWith("-") ? "-" : "";
  const body = text.replace(/^[-+]/, "");
  const digits = (plain: string) => ({ digits: `${sign}${plain}` });
  if (/^\d{1,3}( \d{3})+([.,]\d+)?$/.test(body)) return digits(body.replace(/ /g, "").replace(",", "."));
  if (/^\d*\.?\d*$/.test(body)) return digits(body);
  if (/^\d{1,3}(,\d{3}){2,}$/.test(body) || /^\d{1,3}(,\d{3})+\.\d+$/.test(body)) return digits(body.replace(/,/g, ""));
  if (/^\d{1,3}(\.\d{3})+,\d+$/.test(body)) return digits(body.replace(/\./g, "").replace(",", "."));
  if (/^\d{1,3}(\.\d{3}){2,}$/.test(body)) return digits(body.replace(/\./g, ""));
  // A zero before the comma, or a group that is not of three, can only be a decimal.
  if (/^[1-9]\d{0,2},\d{3}$/.test(body))
    return { sentence: `"${text}" may mean ${body.replace(",", "")} or ${body.replace(",", ".")}: write it without the comma, or with a point.` };
  if (/^\d*,\d+$/.test(body)) return digits(body.replace(",", "."));
  return { sentence: `"${text}" is not a number; write it with at most one point and no commas.` };
}

const isPure = (unit: string) => unit === "" || unit === "1";
const isTemperature = (unit: string) => unit === "K";

/**
 * Reads "20 mm", "1.2 kg/m^3", "4 degC" or a bare number and gives the value in the SI unit asked for. A bare number is taken in that unit,
 * and said so; a bare temperature is asked about, as is a number whose comma may mean thousands or decimals.
 * @param siUnit "" or "1" for pure numbers
 * @example
 * parseQuantity("20 mm", "m") // { ok: true, si: 0.02 }
 * parseQuantity("20 kg", "m").ok // false
 */
export function parseQuantity(text: string, siUnit: string): ParsedQuantity {
  if (text.trim() === "") return { ok: false, sentence: "Nothing was typed." };
  if (text.length > LONGEST) return { ok: false, sentence: `"${text.slice(0, 20)}…" has ${text.length} characters: it is no number with a unit.` };
  const figure = figureOf(text);
  if (!figure.ok) return { ok: false, sentence: figure.sentence };
  const { value, rest } = figure;
  if (isPure(siUnit)) {
    if (rest === "" || rest === "1" || rest === "-") return { ok: true, si: value };
    if (rest === "%") return { ok: true, si: value / 100 };
    return { ok: false, sentence: `"${text}" has a unit; this is a pure number without one.` };
  }
  if (rest === "")
    return isTemperature(siUnit)
      ? { ok: false, sentence: `"${text}" lacks its unit: write ${text.trim()} °C, ${text.trim()} °F or ${text.trim()} K.` }
      : { ok: true, si: value, said: `${text.trim()} was taken in ${siUnit}` };
  return inUnit(value, rest, siUnit, text);
}

function inUnit(value: number, unit: string, siUnit: string, text: string): ParsedQuantity {
  const target = plainUnit(siUnit);
  try {
    // The package would drop a number that stands in a unit.
    if (/^[\d.]/.test(plainUnit(unit))) return { ok: false, sentence: `"${unit}" is a number with a unit; a unit alone is wanted.` };
    if (plainUnit(unit) === target && unitOf(1, target)) return { ok: true, si: value };
    const given = unitOf(value, plainUnit(unit));
    if (!given.equalBase(unitOf(1, target)))
      return { ok: false, sentence: `"${text}" has the wrong dimension; ${siUnit} or a unit of the same kind is wanted.` };
    const si = given.toNumber(target);
    if (!Number.isFinite(si)) return { ok: false, sentence: `"${text}" is not a finite value.` };
    const gallon = /(^|[^a-z])gal(lon)?s?\b/i.test(unit) && !/imp|uk|us/i.test(unit);
    return { ok: true, si, ...(gallon ? { said: `${text.trim()} was read in US gallons; write imperial gallon for the other` } : {}) };
  } catch {
    return { ok: false, sentence: `"${text}" was not understood; write a number and a unit, such as 5 ${siUnit}.` };
  }
}

/** A difference, as an uncertainty is one: 0.5 °C is half a kelvin, whatever the zero. */
export function parseDifference(text: string, siUnit: string): ParsedQuantity {
  const figure = figureOf(text);
  if (isTemperature(siUnit) && figure.ok) {
    const unit = plainUnit(figure.rest);
    if (unit === "degC" || unit === "K") return { ok: true, si: figure.value };
    if (unit === "degF") return { ok: true, si: (figure.value * 5) / 9 };
  }
  return parseQuantity(text, siUnit);
}

/**
 * Converts a number from one unit to another; undefined when they are not of the same kind or not known.
 * @example
 * convert(50, "mm", "m") // 0.05
 * convert(1, "kg", "m") // undefined
 */
export function convert(value: number, from: string, to: string): number | undefined {
  if (from === to) return value;
  if (isPure(to)) return from === "%" ? value / 100 : isPure(from) || from === "-" ? value : undefined;
  if (isPure(from) || from.length > LONGEST || to.length > LONGEST) return undefined;
  const parsed = inUnit(value, from, to, `${value} ${from}`);
  return parsed.ok ? parsed.si : undefined;
}

/** Is this a unit that can be converted? */
export const isUnit = (unit: string): boolean => isPure(unit) || convert(1, unit, unit.trim() === unit ? ` ${unit}` : unit) !== undefined;
