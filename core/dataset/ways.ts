/** How values go from one mesh to another. */
export type TransferWay = "averages" | "points";

export const TRANSFER_WORDS: Readonly<Record<TransferWay, string>> = {
  averages: "averages over its cells, which keep what the overlaps hold",
  points: "values at the middle of its cells",
};
