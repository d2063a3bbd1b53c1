import { expect, test } from "vitest";
import { KIND_HELP, KIND_WORDS, proposedKind, QUANTITY_KINDS } from "./quantityKind.ts";

test.each([
  ["lift coefficient", "cross-force"],
  ["Lift", "cross-force"],
  ["side force on the door", "cross-force"],
  ["cross force", "cross-force"],
  ["forklift speed", "plain"],
  ["lifted plume height", "plain"],
  ["force along x", "plain"],
  ["cooling efficiency", "efficiency"],
  ["effectiveness of the curtain", "efficiency"],
  ["inefficiency", "plain"],
  ["", "plain"],
])("%s is proposed as %s", (name, kind) => expect(proposedKind(name)).toBe(kind));

test("every kind has words of its own", () => {
  expect(new Set(QUANTITY_KINDS.map((k) => KIND_WORDS[k])).size).toBe(QUANTITY_KINDS.length);
  expect(new Set(QUANTITY_KINDS.map((k) => KIND_HELP[k])).size).toBe(QUANTITY_KINDS.length);
});
