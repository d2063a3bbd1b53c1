import fc from "fast-check";
import { expect, test } from "vitest";
import { share, unshare } from "./sentRuns";

test("objects come back as they were sent, also where one lacks what the others have alike", () => {
  const value = fc.oneof(fc.constant(null), fc.integer({ min: 0, max: 1 }), fc.record({ a: fc.integer({ min: 0, max: 1 }) }));
  const one = fc.record({ state: value, code: value, build: value }, { requiredKeys: ["state"] });
  fc.assert(
    fc.property(fc.array(one, { maxLength: 5 }), (list) => {
      expect(unshare(share<object>(list))).toEqual(list);
    }),
  );
});

test("what is the same in all of hundreds is sent once", () => {
  const list = Array.from({ length: 300 }, (_, k) => ({ label: `run ${k}`, numerics: { scheme: "central", dropOrders: 6 }, failure: null }));
  const sent = share(list);
  expect(sent.common).toEqual({ numerics: { scheme: "central", dropOrders: 6 }, failure: null });
  expect(sent.own[7]).toEqual({ label: "run 7" });
});
