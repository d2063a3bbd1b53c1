import { significant } from "@/core/formatting/number";
import type { StationsAsked } from "@/core/intake/stationCurves";
import type { SurfaceLook } from "@/core/intake/surfaceLook";
import { typedNumber } from "../forms/typedNumber";

export const AXES = [
  ["0", "x"],
  ["1", "y"],
  ["2", "z"],
] as const;
export const ABSCISSAE = [
  ["axis", "the axis, m"],
  ["share", "the axis over the line's own length"],
  ["arc", "arc length, m"],
] as const;
export const READ = { pressure: "pressure", shear: "shear along the axis", temperature: "temperature" } as const;
export type Of = keyof typeof READ;

export interface TypedCuts {
  readonly across: "0" | "1" | "2";
  readonly along: "0" | "1" | "2";
  readonly stations: string;
  readonly of: Of;
  readonly abscissa: StationsAsked["abscissa"];
  readonly density: string;
  readonly speed: string;
  readonly greater: string;
  readonly lesser: string;
}

/** The axis the surface is longest along, and the other two, longest first. */
function axesOf({ low, high }: SurfaceLook): readonly number[] {
  return [0, 1, 2].sort((a, b) => high[b] - low[b] - (high[a] - low[a]));
}

/** What stands in the form at first: three planes across the longest axis. */
export function firstCuts(look: SurfaceLook, of: readonly Of[], conditions: Readonly<Record<string, number>>): TypedCuts {
  const [across, along] = axesOf(look);
  const at = [0.25, 0.5, 0.75].map((share) => significant(look.low[across] + share * (look.high[across] - look.low[across]), 4));
  const entry = (v: number | undefined, unit: string) => (v === undefined ? "" : `${v} ${unit}`);
  return {
    across: String(across) as TypedCuts["across"],
    along: String(along) as TypedCuts["along"],
    stations: at.join(", "),
    of: of[0],
    abscissa: "axis",
    density: entry(conditions.densityKgM3, "kg/m^3"),
    speed: entry(conditions.velocityMS, "m/s"),
    greater: "greater side",
    lesser: "lesser side",
  };
}

/** What is read of a surface whose arrays have these roles. */
export const readableOf = (roles: readonly string[]): Of[] => {
  const known = new Set(roles.map((role) => role.replace(/-[xyz]$/, "")));
  return (Object.keys(READ) as Of[]).filter((of) => known.has(of));
};

/** What is asked for, of what stands in the form. @throws {Error} the stations are no list of numbers */
export function askedOf(typed: TypedCuts): Omit<StationsAsked, "coefficient"> {
  // A comma stands between numbers where a space follows it, and is a decimal one where none does.
  const stations = typed.stations
    .split(/[;\s]+|,\s+/)
    .filter(Boolean)
    .map((t) => typedNumber(t.replace(/,$/, "")));
  if (!stations.length || !stations.every(Number.isFinite)) throw new Error(`Stations: "${typed.stations}" is no list of numbers.`);
  const { of, abscissa } = typed;
  return {
    across: Number(typed.across) as 0 | 1 | 2,
    along: Number(typed.along) as 0 | 1 | 2,
    stations,
    of,
    abscissa,
    names: [typed.greater, typed.lesser],
  };
}
