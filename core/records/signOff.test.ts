import { describe, expect, test } from "vitest";
import { type SignOff, type SignRole, signRefusal } from "./signOff.ts";

const given = (...list: [SignRole, string][]): SignOff[] => list.map(([role, by]) => ({ role, by, at: "2026-04-01T08:00:00Z" }));

describe("signatures under a report", () => {
  test.each([
    ["prepared", "H. M.", [], undefined],
    ["checked", "K. B.", [], "It has to be prepared first."],
    ["checked", "K. B.", [["prepared", "H. M."]], undefined],
    ["checked", "h.m.", [["prepared", "H. M."]], "h.m. prepared it: somebody else has to say that it is checked."],
    ["approved", "R. T.", [["prepared", "H. M."]], "It has to be checked first."],
    [
      "approved",
      "HM",
      [
        ["prepared", "H. M."],
        ["checked", "K. B."],
      ],
      "HM prepared it: somebody else has to say that it is approved.",
    ],
    [
      "approved",
      "K. B.",
      [
        ["prepared", "H. M."],
        ["checked", "K. B."],
      ],
      undefined,
    ],
    [
      "checked",
      "R. T.",
      [
        ["prepared", "H. M."],
        ["checked", "K. B."],
      ],
      "It is checked already, by K. B.",
    ],
  ] as const)("%s by %s after %j: %s", (role, by, before, refusal) =>
    expect(signRefusal(role, by, given(...(before as unknown as [SignRole, string][])))).toBe(refusal),
  );
});
