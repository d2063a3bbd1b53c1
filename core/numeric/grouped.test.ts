import fc from "fast-check";
import { expect, test } from "vitest";
import { grouped } from "./grouped.ts";

test("every entry stands once in its group, in the order it was told", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 6 }).chain((groups) => fc.tuple(fc.constant(groups), fc.array(fc.nat({ max: groups - 1 })))),
      ([groups, of]) => {
        const { start, entries } = grouped(groups, (tell) => {
          of.forEach((g, entry) => {
            tell(g, entry);
          });
        });
        expect(start).toHaveLength(groups + 1);
        for (let g = 0; g < groups; g++)
          expect([...entries.subarray(start[g], start[g + 1])]).toEqual(of.flatMap((own, k) => (own === g ? [k] : [])));
      },
    ),
  );
});
