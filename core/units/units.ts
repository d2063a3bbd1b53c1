import { create, unitDependencies } from "mathjs";

const math = create({ unitDependencies });

export type ParsedQuantity = { readonly ok: true; readonly si: number } | { readonly ok: false; readonly sentence: string };

/** mathjs writes degC and the like; people write °C, ², ·. */
function plain(text: string): string {
  return text
    .trim()
    .replace(/°\s*C/g, "degC")
    .replace(/²/g, "^2")
    .replace(/³/g, "^3")
    .replace(/[·⋅]/g, "*")
    .replace(/μ|µ/g, "u")
    .replace(/−/g, "-")
    .replace(/^([-+]?\d+),(\d+)/, "$1.$2");
}

/**
 * Reads "20 mm", "1.2 kg/m^3", "4 degC" or a bare number and gives the value in the SI unit asked for.
 * @param siUnit "" or "1" for pure numbers
 */
export function parseQuantity(text: string, siUnit: string): ParsedQuantity {
  const clean = plain(text);
  if (clean === "") return { ok: false, sentence: "Nothing was typed." };
  const bare = Number(clean);
  if (Number.isFinite(bare)) return { ok: true, si: bare };
  if (siUnit === "" || siUnit === "1") {
    const share = clean.match(/^([-+\d.eE]+)\s*%$/);
    if (share && Number.isFinite(Number(share[1]))) return { ok: true, si: Number(share[1]) / 100 };
    return { ok: false, sentence: `"${text}" is not a number; this is a pure number without a unit.` };
  }
  try {
    const value = math.unit(clean);
    const target = math.unit(siUnit);
    if (!value.equalBase(target))
      return { ok: false, sentence: `"${text}" has the wrong dimension; ${siUnit} or a unit of the same kind is wanted.` };
    const si = value.toNumber(siUnit);
    return Number.isFinite(si) ? { ok: true, si } : { ok: false, sentence: `"${text}" is not a finite value.` };
  } catch {
    return { ok: false, sentence: `"${text}" was not understood; write a number and a unit, such as 5 ${siUnit}.` };
  }
}

/** Converts a number from one unit to another; undefined when they are not of the same kind or not known. */
export function convert(value: number, from: string, to: string): number | undefined {
  if (from === to) return value;
  const parsed = parseQuantity(`${value} ${from}`, to);
  return parsed.ok ? parsed.si : undefined;
}
