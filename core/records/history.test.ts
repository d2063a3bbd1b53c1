import fc from "fast-check";
import { expect, test } from "vitest";
import { readHistory, thinned, type WrittenHistory, writeHistory } from "./history.ts";
import type { HistoryEvidence } from "./run.ts";

const record: HistoryEvidence = {
  iteration: Float64Array.of(1, 2, 3, 4, 5, 6, 7),
  time: Float64Array.of(0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7),
  residuals: { continuity: Float64Array.of(1, Number.NaN, 0.1, 0, 0.01, 0.001, 1e-300) },
  quantities: { flow: Float64Array.of(-0, 1, 2, 3, 4, 5, Number.POSITIVE_INFINITY) },
  balances: { mass: Float64Array.of(7, 6, 5, 4, 3, 2, 1) },
  starts: { continuity: 2 },
};

test("a gap in a record comes back as a gap, not as nought", () => {
  const back = readHistory(JSON.parse(JSON.stringify(writeHistory(record))));
  expect(back.residuals.continuity).toBeInstanceOf(Float64Array);
  expect(Array.from(back.residuals.continuity)).toEqual([1, Number.NaN, 0.1, 0, 0.01, 0.001, 1e-300]);
  expect(back.quantities.flow[6]).toBeNaN();
  expect(back).toMatchObject({ iteration: record.iteration, time: record.time, balances: record.balances, starts: record.starts });
});

test("finite numbers come back to the last bit", () => {
  fc.assert(
    fc.property(fc.array(fc.double({ noNaN: true, noDefaultInfinity: true })), (list) => {
      const iteration = Float64Array.from(list, (v) => v + 0);
      const back = readHistory(JSON.parse(JSON.stringify(writeHistory({ iteration, residuals: {}, quantities: {} }))));
      expect(Array.from(back.iteration)).toEqual(Array.from(iteration, (v) => (v === 0 ? 0 : v)));
    }),
  );
});

test("thinned to three: first and last stay, every array alike; short records are left as they are", () => {
  const few = thinned(record, 3);
  expect(Array.from(few.iteration)).toEqual([1, 4, 7]);
  expect(Array.from(few.time ?? [])).toEqual([0.1, 0.4, 0.7]);
  expect(Array.from(few.balances?.mass ?? [])).toEqual([7, 4, 1]);
  expect(Array.from(thinned(record, 4).iteration)).toEqual([1, 3, 5, 7]);
  expect(Array.from(thinned(record, 2).iteration)).toEqual([1, 5, 7]);
  expect(thinned(record, 7)).toBe(record);
});

test("what is no record is refused", () => {
  const not = (h: object) => () => readHistory(h as WrittenHistory);
  expect(not({ iteration: ["1"], residuals: {}, quantities: {} })).toThrow("no record of a run");
  expect(not({ iteration: [1], residuals: { mass: [1, {}] }, quantities: {} })).toThrow("no record of a run");
  expect(not({ iteration: [1], residuals: {}, quantities: { q: "1" } })).toThrow("no record of a run");
  expect(not({ residuals: {}, quantities: {} })).toThrow("no record of a run");
});
