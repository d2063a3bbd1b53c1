import type { ReportTable } from "./reportDocument.ts";

type Value = string | number;

/** longest list that stands in one line */
const SHORT_LIST = 8;

/**
 * Settings as lines: the path to each value, and the value; lists of a few plain values are one line.
 * @example
 * [...flatSettings({ mesh: { nx: 8 }, files: ["a", "b"] })] // [["mesh.nx", 8], ["files", "a, b"]]
 */
export function flatSettings(settings: unknown, path = "", found = new Map<string, Value>()): Map<string, Value> {
  if (settings === null || settings === undefined) return found;
  if (typeof settings === "number" || typeof settings === "string") return found.set(path, settings);
  if (typeof settings !== "object") return found.set(path, String(settings));
  const entries = Object.entries(settings);
  if (Array.isArray(settings) && settings.length <= SHORT_LIST && settings.every((v) => typeof v !== "object"))
    return found.set(path, settings.map(String).join(", "));
  for (const [key, value] of entries) {
    const name = Array.isArray(settings) ? String(Number(key) + 1) : key;
    flatSettings(value, path ? `${path}.${name}` : name, found);
  }
  return found;
}

/** Settings of several runs as two tables: what all have alike once, and what differs run by run. */
export function settingsTables(runs: readonly { readonly label: string; readonly settings: unknown }[]): ReportTable[] {
  const flat = runs.map((r) => flatSettings(r.settings));
  const keys = [...new Set(flat.flatMap((f) => [...f.keys()]))];
  const alike = keys.filter((k) => flat.every((f) => f.get(k) === flat[0].get(k)));
  const differing = keys.filter((k) => !alike.includes(k));
  const column = (name: string) => ({ name, unit: "" });
  // A column of the report holds either figures or words; settings are both, so they stand as they are written.
  const text = (v: Value | undefined) => (v === undefined ? null : String(v));
  return [
    ...(alike.length
      ? [
          {
            key: "settings-alike",
            title: runs.length > 1 ? `Settings all ${runs.length} runs have` : "Settings of the run",
            columns: [column("setting"), column("value, SI")],
            rows: alike.map((k) => [k, text(flat[0].get(k))]),
          },
        ]
      : []),
    ...(differing.length
      ? [
          {
            key: "settings-own",
            title: "Settings that differ from run to run",
            columns: [column("run"), column("setting"), column("value, SI")],
            rows: runs.flatMap((r, i) => differing.filter((k) => flat[i].has(k)).map((k) => [r.label, k, text(flat[i].get(k))])),
          },
        ]
      : []),
  ];
}
