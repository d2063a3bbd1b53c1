import type { Sheet } from "../formats/sheet.ts";
import type { Take } from "../records/take.ts";
import { convert } from "../units/units.ts";
import type { BoundaryRole } from "./quantityImport.ts";

/** What a column of a history becomes. */
export type ColumnRole = "iteration" | "time" | "residual" | "log-residual" | BoundaryRole | "ignore" | `quantity:${string}`;

/** Does a column of this role hold a residual, plain or as its logarithm? */
export const isResidual = (role: ColumnRole) => role === "residual" || role === "log-residual";

/** A quantity of the case by the names a column may call it. */
export interface Named {
  readonly key: string;
  readonly name: string;
  readonly symbol: string;
  readonly unit?: string;
  readonly take?: Take;
}

const normal = (s: string) => s.toLowerCase().replace(/[^a-z0-9]/g, "");

/** Ways a residual may be counted; columns of several ways are never taken together. */
export const WAY = /\b(raw|unscaled|abs(?:olute)?|scaled|normali[sz]ed|relative|rms|l1|l2|linf|max(?:imum)?|mean|initial|final)\b/i;

/**
 * How a residual of this name is counted, "" where it does not say.
 * @example
 * residualWay("scaled mass residual") // "scaled"
 */
export const residualWay = (name: string) => name.replace(/_/g, " ").match(WAY)?.[1].toLowerCase() ?? "";
/** "log10(R_mass)", "lg mass residual": the name inside, where a name says that it holds a logarithm. */
const LOGGED = /^\s*(?:log_?10|log|lg)(?:\s*\(\s*(.*?)\s*\)|[\s_]+(.*))\s*$/i;
/** The name inside a logarithm; undefined where the name says of none. */
export const insideLog = (name: string): string | undefined => {
  const found = name.match(LOGGED);
  return found ? (found[1] ?? found[2]) : undefined;
};
/** "R_mass", "Ux residual": names a residual goes by. */
const isResidualName = (name: string) =>
  /residual|\bres(id)?\b|continuity|imbalance/.test(name) ||
  /^r[_ ]\w+/.test(name) ||
  /^(([xyz][ -]?)?momentum|mass|energy|[uvwp])$/.test(equationOf(name));

/** The equation a residual belongs to: its name without the way it is counted and the word itself. */
export const equationOf = (name: string) =>
  name
    .replace(/^R_(?=\w)/, "")
    .replace(/_/g, " ")
    .replace(new RegExp(WAY, "gi"), "")
    .replace(/\bresid(ual)?s?\b|\bres\b/gi, "")
    .replace(/[\s,:]+/g, " ")
    .trim();

/** Guesses the role of every column from its name and its numbers; a person confirms or changes it. */
export function guessRoles(sheet: Sheet, quantities: readonly Named[]): ColumnRole[] {
  let haveIteration = false;
  const roles = sheet.header.map((name, i): ColumnRole => {
    const word = name.toLowerCase().replace(/_/g, " ");
    if (!haveIteration && /^(n|it|iter|iteration|step|cycle)s?\b|iteration/.test(word)) {
      haveIteration = true;
      return "iteration";
    }
    if (/^(flow |physical )?(t|time)$/.test(word)) return "time";
    const match = quantities.find((q) => [q.key, q.name, q.symbol].some((n) => normal(n) === normal(name)));
    if (match) return `quantity:${match.key}`;
    const inside = insideLog(name);
    if (inside !== undefined && isResidualName(inside.toLowerCase())) return "log-residual";
    const flows = (unit: string) => sheet.units[i] !== undefined && convert(1, sheet.units[i] as string, unit) !== undefined;
    if (/\bmass (flow|flux)/.test(word) && flows("kg/s")) return "boundary-mass";
    if (/\b(heat|energy|enthalpy) (flow|flux|rate|through)/.test(word) && flows("W")) return "boundary-energy";
    if (/\b(species|tracer|vapou?r|moisture) (flow|flux)/.test(word) && flows("kg/s")) return "boundary-species";
    if (isResidualName(word)) {
      const known = sheet.columns[i].filter(Number.isFinite);
      return known.length > 3 && known.filter((v) => v < 0).length > known.length / 2 && known.every((v) => v > -30 && v < 10)
        ? "log-residual"
        : "residual";
    }
    return "ignore";
  });
  return oneWay(sheet.header, roles);
}

/** Of residuals counted in several ways the one most columns share is kept, the first of equals. */
function oneWay(header: readonly string[], roles: readonly ColumnRole[]): ColumnRole[] {
  const ways = new Map<string, number>();
  roles.forEach((r, i) => {
    if (isResidual(r)) ways.set(residualWay(header[i]), (ways.get(residualWay(header[i])) ?? 0) + 1);
  });
  if (ways.size < 2) return [...roles];
  const [kept] = [...ways.entries()].sort((a, b) => b[1] - a[1])[0];
  return roles.map((r, i) => (isResidual(r) && residualWay(header[i]) !== kept ? "ignore" : r));
}

/** Name of a residual as it is kept: without the word itself, or the logarithm it stands in. */
export function residualName(header: string): string {
  const inside = insideLog(header) ?? header;
  return inside.replace(/^R_(?=\w)/, "").replace(/[\s_]*residual$/i, "") || inside;
}
