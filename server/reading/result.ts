import type { SheetResult } from "../../core/formats/sheet.ts";

/** What a reading tells while it is under way. */
export interface Progress {
  readonly read: number;
  readonly total: number;
  readonly rows: number;
}

export interface ReadOptions {
  readonly progress?: (p: Progress) => void;
  /** asked between pieces: true ends the reading */
  readonly stopped?: () => boolean;
  /** sheet of a workbook, the first unless given */
  readonly sheet?: string;
}

export type ReadResult = SheetResult & { readonly sheets?: readonly string[]; readonly stopped?: boolean };

export const refused = (sentence: string, line = 1): ReadResult => ({ ok: false, problems: [{ line, sentence }] });
