/** A part of the code whose tests have to notice a changed sign, limit or coefficient. */
export interface Subject {
  readonly name: string;
  /** files or folders that are changed */
  readonly code: readonly string[];
  /** files or folders whose tests are asked */
  readonly tests: readonly string[];
  /** share of the changes that has to be noticed */
  readonly floor: number;
  /** its tests start workers, and need a process for each of their files */
  readonly apart?: true;
  /** its tests take long each time they are asked: a sample tries fewer changes */
  readonly slow?: true;
}

const JUDGING = 0.85;
const AROUND = 0.75;

export const SUBJECTS: readonly Subject[] = [
  { name: "refinement", code: ["core/method/refinement"], tests: ["core/method/refinement"], floor: JUDGING },
  { name: "fields", code: ["core/dataset"], tests: ["core/dataset", "core/study"], floor: JUDGING },
  { name: "comparison", code: ["core/method/comparison"], tests: ["core/method/comparison"], floor: JUDGING },
  { name: "balance", code: ["core/method/balance"], tests: ["core/method/balance"], floor: JUDGING },
  { name: "setup", code: ["core/method/setup"], tests: ["core/method/setup"], floor: JUDGING },
  {
    name: "sources",
    code: ["core/method/budget", "core/method/propagation/inputs.ts"],
    tests: ["core/method/budget", "core/method/propagation"],
    floor: JUDGING,
  },
  { name: "iteration", code: ["core/method/iteration"], tests: ["core/method/iteration"], floor: JUDGING },
  { name: "averaging", code: ["core/method/averaging"], tests: ["core/method/averaging"], floor: JUDGING },
  { name: "derived", code: ["core/method/propagation/derived.ts"], tests: ["core/method/propagation"], floor: JUDGING },
  {
    name: "assessment",
    code: ["core/assessment", "core/remarks", "core/study"],
    tests: ["core/assessment", "core/remarks", "core/study"],
    floor: JUDGING,
  },
  { name: "units", code: ["core/units", "core/formatting"], tests: ["core/units", "core/formatting"], floor: AROUND },
  { name: "formats", code: ["core/formats", "core/intake"], tests: ["core/formats", "core/intake"], floor: AROUND },
  {
    name: "usecases",
    code: ["server/usecases", "server/desk"],
    tests: ["server/usecases", "server/desk"],
    floor: AROUND,
    slow: true,
  },
  { name: "jobs", code: ["server/jobs"], tests: ["server/jobs"], floor: AROUND, slow: true, apart: true },
];
