import { describe, expect, test } from "vitest";
import { ageText } from "./age";
import { ANY_FINDING, type FindingLine, recurringCauses, siftedFindings } from "./findingList";

const finding = (title: string, change: Partial<FindingLine> = {}): FindingLine => ({
  id: title,
  caseId: "a",
  caseTitle: "Louvre",
  title,
  what: "loses mass",
  cause: "",
  causeName: "an interface",
  test: "",
  change: "",
  shownBy: null,
  curedBy: null,
  severity: "major",
  owner: "H. M.",
  createdAt: "2026-04-01T08:00:00Z",
  curedAt: null,
  ...change,
});
const LIST = [
  finding("first"),
  finding("older", { createdAt: "2026-03-01T08:00:00Z", owner: "K. B." }),
  finding("blocks", { severity: "blocking", caseId: "b", caseTitle: "Fan" }),
  finding("done", { curedBy: "r", curedAt: "2026-04-11T09:00:00Z", causeName: "the mesh" }),
];
const names = (change: object = {}) => siftedFindings(LIST, { ...ANY_FINDING, ...change }).map((f) => f.title);

describe("findings of all cases", () => {
  test("open ones first of all: the heaviest, then the oldest", () => expect(names()).toEqual(["blocks", "older", "first"]));
  test("are found by state, severity, owner, cause and words of their case", () => {
    expect(names({ state: "cured" })).toEqual(["done"]);
    expect(names({ state: "all", cause: "the mesh" })).toEqual(["done"]);
    expect(names({ severity: "blocking" })).toEqual(["blocks"]);
    expect(names({ owner: "K. B." })).toEqual(["older"]);
    expect(names({ search: "fan mass" })).toEqual(["blocks"]);
  });
  test("recurring causes are counted over cases, with what is open and how long curing took", () => {
    const more = [
      ...LIST,
      finding("again", { causeName: "the mesh", caseId: "b", curedBy: "r", curedAt: "2026-04-03T08:00:00Z" }),
      finding("", { causeName: "" }),
    ];
    expect(recurringCauses(more)).toEqual([
      { cause: "an interface", count: 3, open: 3, cases: 2 },
      { cause: "the mesh", count: 2, open: 0, cases: 2, days: 2 },
    ]);
  });
  test("ages: open until now, cured after", () => {
    expect(ageText("2026-04-01T08:00:00Z", null, "2026-04-03T07:00:00Z")).toBe("open for 1 day");
    expect(ageText("2026-04-01T08:00:00Z", "2026-04-11T09:00:00Z")).toBe("cured after 10 days");
    expect(ageText("2026-04-01T08:00:00Z", "2026-04-01T09:00:00Z")).toBe("cured after less than a day");
  });
});
