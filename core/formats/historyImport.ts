import type { HistoryEvidence } from "../assessment/evidence.ts";
import { type DelimitedTable, type FileProblem, numericColumn } from "./delimited.ts";

/** What a column of a history becomes. */
export type ColumnRole = "iteration" | "time" | "residual" | "log-residual" | "ignore" | `quantity:${string}`;

export type HistoryResult =
  | { readonly ok: true; readonly history: HistoryEvidence; readonly notes: readonly string[] }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

interface Named {
  readonly key: string;
  readonly name: string;
  readonly symbol: string;
}

/** Guesses the role of every column from its name and its numbers; a person confirms or changes it. */
export function guessRoles(table: DelimitedTable, quantities: readonly Named[]): ColumnRole[] {
  let haveIteration = false;
  return table.header.map((name, i): ColumnRole => {
    const word = name.toLowerCase();
    if (!haveIteration && /^(n|it|iter|iteration|step|cycle)s?\b|iteration/.test(word)) {
      haveIteration = true;
      return "iteration";
    }
    if (/^(flow |physical )?(t|time)$/.test(word)) return "time";
    const match = quantities.find((q) => [q.key, q.name, q.symbol].some((n) => normal(n) === normal(name)));
    if (match) return `quantity:${match.key}`;
    if (/residual|\bres(id)?\b|continuity|imbalance/.test(word) || /^(([xyz][ _-]?)?momentum|mass|energy|[uvwp])$/.test(word)) {
      const { values } = numericColumn(table, i);
      const known = values.filter(Number.isFinite);
      return known.length > 3 && known.filter((v) => v < 0).length > known.length / 2 && known.every((v) => v > -30 && v < 10)
        ? "log-residual"
        : "residual";
    }
    return "ignore";
  });
}

const normal = (s: string) => s.toLowerCase().replace(/[^a-z0-9]/g, "");

/**
 * Turns a table and the roles of its columns into a history.
 * Repeated iteration numbers, as after a restart, keep the later entry.
 */
export function buildHistory(table: DelimitedTable, roles: readonly ColumnRole[]): HistoryResult {
  const problems: FileProblem[] = [];
  const notes: string[] = [];
  const read = (index: number) => {
    const column = numericColumn(table, index);
    problems.push(...column.problems);
    return column.values;
  };
  const at = roles.indexOf("iteration");
  if (roles.filter((r) => r === "iteration").length > 1) problems.push({ line: 1, sentence: "Two columns are marked as the iteration." });
  const iteration = at >= 0 ? read(at) : table.cells.map((_, i) => i + 1);
  if (at < 0) notes.push("No column holds the iteration; rows were counted.");
  iteration.forEach((n, i) => {
    if (!Number.isFinite(n) && problems.length < 12)
      problems.push({ line: table.lines[i], column: table.header[at], sentence: "The iteration is missing." });
  });
  const timeAt = roles.indexOf("time");
  if (roles.filter((r) => r === "time").length > 1) problems.push({ line: 1, sentence: "Two columns are marked as the time." });
  const time = timeAt >= 0 ? read(timeAt) : undefined;
  time?.forEach((t, i) => {
    if (!Number.isFinite(t) && problems.length < 12)
      problems.push({ line: table.lines[i], column: table.header[timeAt], sentence: "The time is missing." });
  });
  const residuals: Record<string, number[]> = {};
  const quantities: Record<string, number[]> = {};
  roles.forEach((role, i) => {
    if (role === "residual" || role === "log-residual") {
      const values = read(i);
      const linear = role === "log-residual" ? values.map((v) => 10 ** v) : values;
      const negative = linear.findIndex((v) => v < 0);
      if (negative >= 0)
        problems.push({
          line: table.lines[negative],
          column: table.header[i],
          sentence: "A residual is negative; mark the column as log10 if that is what it holds.",
        });
      residuals[table.header[i].replace(/\s*residual$/i, "") || table.header[i]] = linear;
    } else if (role.startsWith("quantity:")) {
      const key = role.slice("quantity:".length);
      if (quantities[key]) problems.push({ line: 1, column: table.header[i], sentence: "Two columns are marked as the same quantity." });
      quantities[key] = read(i);
    }
  });
  if (!Object.keys(residuals).length && !Object.keys(quantities).length)
    problems.push({ line: 1, sentence: "No column is marked as a residual or a quantity." });
  if (problems.length) return { ok: false, problems };
  const order = laterEntries(iteration);
  if (order.length < iteration.length)
    notes.push(`${iteration.length - order.length} iterations stand twice, as after a restart; the later entry was kept.`);
  const pick = (record: Record<string, number[]>) => Object.fromEntries(Object.entries(record).map(([k, v]) => [k, order.map((i) => v[i])]));
  const gaps = [...Object.values(residuals), ...Object.values(quantities)].flat().filter(Number.isNaN).length;
  if (gaps) notes.push(`${gaps} cells are empty or NaN; they stay gaps.`);
  const kept = time && order.map((i) => time[i]);
  const back = kept?.findIndex((t, i) => i > 0 && t <= kept[i - 1]) ?? -1;
  if (back >= 0)
    return {
      ok: false,
      problems: [
        {
          line: table.lines[order[back]],
          column: table.header[timeAt],
          sentence: `The time does not rise: ${kept?.[back]} s after ${kept?.[back - 1]} s.`,
        },
      ],
    };
  return {
    ok: true,
    history: { iteration: order.map((i) => iteration[i]), ...(kept ? { time: kept } : {}), residuals: pick(residuals), quantities: pick(quantities) },
    notes,
  };
}

function laterEntries(iteration: readonly number[]): number[] {
  const last = new Map<number, number>();
  iteration.forEach((n, i) => {
    last.set(n, i);
  });
  return [...last.entries()].sort((a, b) => a[0] - b[0]).map(([, i]) => i);
}
