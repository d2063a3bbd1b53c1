/** A part of the code whose tests have to notice a changed sign, limit or coefficient. */
export interface Subject {
  readonly name: string;
  /** files or folders that are changed */
  readonly code: readonly string[];
  /** files or folders whose tests are asked */
  readonly tests: readonly string[];
  /** share of the changes that has to be noticed */
  readonly floor: number;
}

const JUDGING = 0.85;
const AROUND = 0.75;

export const SUBJECTS: readonly Subject[] = [
  { name: "refinement", code: ["core/refinement"], tests: ["core/refinement"], floor: JUDGING },
  { name: "comparison", code: ["core/comparison"], tests: ["core/comparison"], floor: JUDGING },
  { name: "balance", code: ["core/balance/balance.ts", "core/balance/laws.ts"], tests: ["core/balance"], floor: JUDGING },
  { name: "setup", code: ["core/setup"], tests: ["core/setup"], floor: JUDGING },
  { name: "sources", code: ["core/sources"], tests: ["core/sources"], floor: JUDGING },
  { name: "iteration", code: ["core/iteration"], tests: ["core/iteration"], floor: JUDGING },
  { name: "averaging", code: ["core/averaging"], tests: ["core/averaging"], floor: JUDGING },
  { name: "derived", code: ["core/derived"], tests: ["core/derived"], floor: JUDGING },
  { name: "assessment", code: ["core/assessment"], tests: ["core/assessment"], floor: JUDGING },
  { name: "units", code: ["core/units", "core/formatting"], tests: ["core/units", "core/formatting"], floor: AROUND },
  { name: "formats", code: ["core/formats"], tests: ["core/formats"], floor: AROUND },
  { name: "usecases", code: ["server/usecases"], tests: ["server/usecases"], floor: AROUND },
  { name: "jobs", code: ["server/jobs"], tests: ["server/jobs"], floor: AROUND },
];
