/** Chapters a report can be composed of, in their usual order. */
export const REPORT_BLOCKS = [
  { key: "rule", name: "Every error on one rule" },
  { key: "question", name: "Question and set-up" },
  { key: "yardsticks", name: "Yardsticks" },
  { key: "meshes", name: "Meshes in space" },
  { key: "runs", name: "Runs" },
  { key: "settling", name: "Settling" },
  { key: "balance", name: "Balance" },
  { key: "refinement", name: "Refinement" },
  { key: "fields", name: "Fields over the meshes" },
  { key: "comparison", name: "Comparison" },
  { key: "credibility", name: "Credibility" },
  { key: "findings", name: "Findings" },
  { key: "appendix", name: "Appendix: settings and hashes" },
] as const;

/** A list with one of its entries a place further up or down. */
export function moved(list: readonly string[], key: string, by: 1 | -1): string[] {
  const from = list.indexOf(key);
  const to = from + by;
  if (from < 0 || to < 0 || to >= list.length) return [...list];
  const next = [...list];
  [next[from], next[to]] = [next[to], next[from]];
  return next;
}
