/** What of a record stands for the quantity's value. */
export const TAKES = ["last", "mean", "rms", "amplitude", "frequency", "strouhal"] as const;

export type Take = (typeof TAKES)[number];

export const TAKE_WORDS: Readonly<Record<Take, string>> = {
  last: "last value",
  mean: "mean",
  rms: "root mean square about the mean",
  amplitude: "amplitude of the dominant frequency",
  frequency: "dominant frequency",
  strouhal: "Strouhal number",
};

/** Unit of a statistic of a record: frequencies and Strouhal numbers are not in the record's own. */
export const ownUnit = (take: Take | undefined): boolean => take !== "frequency" && take !== "strouhal";
