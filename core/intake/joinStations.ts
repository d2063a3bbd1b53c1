/** A text file with its name. */
interface NamedText {
  readonly name: string;
  readonly text: string;
}

export type JoinedStations =
  | { readonly ok: true; readonly name: string; readonly text: string; readonly notes: readonly string[] }
  | { readonly ok: false; readonly sentence: string };

/** The number a file's name ends its label with: "traverse-x4.csv" is 4, "u_0.25H.dat" 0.25. */
function numberIn(name: string): number | undefined {
  const bare = name.replace(/^.*[\\/]/, "").replace(/\.(csv|txt|dat|tsv)$/i, "");
  const found = bare.match(/-?\d+(?:\.\d+)?/g);
  return found ? Math.abs(Number(found[found.length - 1])) : undefined;
}

const delimiterOf = (line: string): string => [";", "\t", ","].find((d) => line.includes(d)) ?? " ";

/**
 * Files of one traverse, a station each, as one table with a column for the station: the last number in each name, or their order where names do not tell
 * them apart. Every file has to have the same heading.
 */
export function joinStations(files: readonly NamedText[]): JoinedStations {
  const parts = files.map(({ name, text }) => {
    const lines = text.replace(/^\uFEFF/, "").split(/\r\n|\n|\r/);
    const at = lines.findIndex((l) => l.trim() !== "");
    return { name, heading: (lines[at] ?? "").trim(), rows: lines.slice(at + 1).filter((l) => l.trim() !== "") };
  });
  const [first] = parts;
  if (!first) return { ok: false, sentence: "Choose at least one file." };
  const other = parts.find((p) => p.heading !== first.heading);
  if (other)
    return {
      ok: false,
      sentence: `${other.name} has another heading than ${first.name}: "${other.heading.slice(0, 60)}" is not "${first.heading.slice(0, 60)}". Files of several stations need one heading; bring the others in by themselves.`,
    };
  const empty = parts.find((p) => !p.rows.length);
  if (empty) return { ok: false, sentence: `${empty.name} has no rows below its heading.` };
  const numbers = parts.map((p) => numberIn(p.name));
  const told = numbers.every((n) => n !== undefined) && new Set(numbers).size === numbers.length;
  const stations = told ? (numbers as number[]) : parts.map((_, k) => k + 1);
  const order = parts.map((_, k) => k).sort((a, b) => stations[a] - stations[b]);
  const d = delimiterOf(first.heading);
  const text = [`station${d}${first.heading}`, ...order.flatMap((k) => parts[k].rows.map((row) => `${stations[k]}${d}${row.trimStart()}`))].join(
    "\n",
  );
  const list = order.map((k) => `${stations[k]}: ${parts[k].name}`).join(", ");
  return {
    ok: true,
    name: `${first.name} and ${files.length - 1} more`,
    text: `${text}\n`,
    notes: [
      `The station is ${told ? "the last number in each file's name" : "the order of the files, since their names have no number that tells them apart"}: ${list}.`,
    ],
  };
}
