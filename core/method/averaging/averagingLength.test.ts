import { expect, test } from "vitest";
import { shorterMeans } from "./averagingLength.ts";
import { meanUncertainty } from "./meanUncertainty.ts";
import { correlated } from "./seriesForTests.ts";

const N = 4000;
const at = Float64Array.from({ length: N }, (_, i) => 0.5 * i);

test("each share is averaged by itself, from where the start-up ends; the whole is the mean itself", () => {
  const y = correlated(N, 2, 7);
  const found = shorterMeans(at, y, { cut: 800, step: 0.5 });
  expect(found.map((m) => [m.share, m.length])).toEqual([
    [1 / 8, 199.5],
    [1 / 4, 399.5],
    [1 / 2, 799.5],
    [1, 1599.5],
  ]);
  expect(found[1].mean).toBe(meanUncertainty(y.slice(800, 1600)).mean);
  expect(found[3].expanded).toBe(meanUncertainty(y.slice(800)).expanded);
  // Four times as long a record of noise is known about twice as well.
  expect(found[1].expanded / found[3].expanded).toBeGreaterThan(1.5);
  expect(found[1].expanded / found[3].expanded).toBeLessThan(2.7);
});

test("a mean that drifts shows along the ladder; shares of a few samples are left out", () => {
  const drifting = Float64Array.from(at, (t) => t);
  const means = shorterMeans(at, drifting, { cut: 0, step: 0.5 }).map((m) => m.mean);
  expect(means).toEqual([...means].sort((a, b) => a - b));
  expect(means[3]).toBeCloseTo(999.75, 9);
  expect(shorterMeans(at.slice(0, 60), drifting.slice(0, 60), { cut: 0, step: 0.5 }).map((m) => m.share)).toEqual([1 / 2, 1]);
});
