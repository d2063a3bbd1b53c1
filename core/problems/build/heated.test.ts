import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { run } from "./problemRunsForTests.ts";

describeProblem("heated", { scale: 0.5, parameters: { section: 1, wall: 1 } });

test("a Nusselt number is read where it has developed: the stretch before gives the same, and it falls onto the published value at order 2", () => {
  const results = [1, 2].map((scale) => run("heated", { scale }).result());
  const [a, b] = results.map((r) => r.quantities.nusselt);
  expect(Math.abs((b + (b - a) / 3) / 7.5407 - 1)).toBeLessThan(0.0005);
  const twice = results[1].second?.find((s) => s.quantityKey === "nusselt");
  expect(Math.abs((twice?.second ?? 0) / (twice?.first ?? 1) - 1)).toBeLessThan(0.0002);
});

test.each([
  [0, 1, 8.2353],
  [1, 0, 3.6568],
  [1, 1, 4.3636],
])("section %d, wall %d: developed Nusselt number %d", (section, wall, nusselt) => {
  const found = run("heated", { scale: 2, parameters: { section, wall } }).result().quantities.nusselt;
  expect(Math.abs(found / nusselt - 1)).toBeLessThan(0.0045);
});
