/** A rule in words: what it does, where it comes from, and the file that checks it. */
export interface RuleText {
  readonly rule: string;
  readonly text: string;
  readonly source: string;
  readonly file: string;
}

/**
 * The rules of one file, each with its text and source beside its check.
 * @param file path from the root of the code, for whoever wants to read it
 */
export const rulesOf = <More extends object = object>(
  file: string,
  rules: readonly (Omit<RuleText, "file"> & More)[],
): readonly (RuleText & More)[] => rules.map((r) => ({ ...r, file }));
