import { expect, test } from "vitest";
import type { Reference } from "../records/reference.ts";
import { heldToConditions } from "./statedConditions.ts";

const yardstick = (conditions?: Reference["conditions"]): Reference => ({
  key: "y",
  name: "Traverse",
  kind: "measured",
  source: "s",
  validity: { sentence: "Step of 50 mm.", inside: true },
  values: [],
  profiles: [],
  ...(conditions ? { conditions } : {}),
});

test("conditions within two percent are the case's; further away the yardstick does not hold; what the case does not say decides nothing", () => {
  const held = heldToConditions(yardstick([{ like: "reynolds", value: 5000 }]), { values: { reynolds: 5090 } });
  expect(held.validity).toEqual({ inside: true, sentence: "Step of 50 mm. Its Reynolds number of 5000 is the case's." });
  const apart = heldToConditions(
    yardstick([
      { like: "reynolds", value: 5000 },
      { like: "velocity", value: 2 },
    ]),
    { values: { reynolds: 6000 } },
  );
  expect(apart.validity.inside).toBe(false);
  expect(apart.validity.sentence.replace(/\u00a0/g, " ")).toBe(
    "Step of 50 mm. It was made at a Reynolds number of 5000, the case's is 6000, 20 % away. It was made at a reference velocity of 2 m/s; the case says none.",
  );
  expect(heldToConditions(yardstick(), { values: {} })).toEqual(yardstick());
  const outside = { ...yardstick([{ like: "mach", value: 2 }]), validity: { sentence: "", inside: false } };
  expect(heldToConditions(outside, { values: { mach: 2 } }).validity.inside).toBe(false);
});
