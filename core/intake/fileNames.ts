/** What the name of a file says of the run it holds. */
export interface NamedFile {
  readonly label: string;
  readonly cells?: number;
}

const ENDINGS = /\.(csv|txt|dat|tsv|log|out|json|xlsx)$/i;
const KIND_WORDS =
  /[\s_-]*\b(history|histories|residuals?|record|monitors?|quantit(y|ies)|values?|results?|flux(es)?|balance|table|report|forces?|probes?)\b/gi;
const TIMES = { k: 1e3, K: 1e3, M: 1e6 } as const;

/**
 * Label and cell count of a run, guessed from its file's name: "L2 medium 310k history.csv" is "L2 medium 310k" with 310,000 cells,
 * "box_64x64.csv" has 4,096. A count needs a k, an M, a product or the word cells: a bare number may mean anything.
 */
export function readFileName(name: string): NamedFile {
  const bare = name.replace(/^.*[\\/]/, "").replace(ENDINGS, "");
  const label = bare
    .replace(/_/g, " ")
    .replace(KIND_WORDS, "")
    .replace(/\s+/g, " ")
    .trim()
    .replace(/^[-\s]+|[-\s]+$/g, "");
  const cells = cellsIn(bare.replace(/_/g, " "));
  return { label: label || bare, ...(cells === undefined ? {} : { cells }) };
}

function cellsIn(text: string): number | undefined {
  const product = text.match(/(?<![\d.])(\d{1,5})\s*[x×]\s*(\d{1,5})(?:\s*[x×]\s*(\d{1,5}))?(?![\d.])/i);
  if (product) return Number(product[1]) * Number(product[2]) * Number(product[3] ?? 1);
  const short = text.match(/(?<![\w.])(\d+(?:[.,]\d+)?)\s*([kKM])(?![a-z])/);
  if (short) return Math.round(Number(short[1].replace(",", ".")) * TIMES[short[2] as "k" | "K" | "M"]);
  const worded = text.match(/(\d[\d ]*)\s*cells/i);
  return worded ? Number(worded[1].replace(/ /g, "")) : undefined;
}

/** Which of some runs a table belongs to: the one whose label its name begins with or shares most words with; none where that is not clear. */
export function ownerOf(table: string, labels: readonly string[]): number | undefined {
  const words = (s: string) => new Set(s.toLowerCase().match(/[a-z0-9.]+/g) ?? []);
  const own = words(readFileName(table).label);
  const shared = labels.map((l) => [...words(l)].filter((w) => own.has(w)).length);
  const most = Math.max(0, ...shared);
  return most > 0 && shared.filter((s) => s === most).length === 1 ? shared.indexOf(most) : undefined;
}
