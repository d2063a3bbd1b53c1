import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { packCheckpoint, unpackCheckpoint } from "./checkpointFile.ts";
import type { Checkpoint } from "./simulation.ts";
import { toPlain } from "./wire.ts";

const numbers = fc.double({ noDefaultInfinity: false });
const leaf = fc.oneof(
  numbers,
  fc.string(),
  fc.boolean(),
  fc.constant(null),
  fc.array(numbers).map((v) => Float64Array.from(v)),
  fc.array(numbers).map((v) => Float32Array.from(v)),
  fc.array(fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 })).map((v) => Int32Array.from(v)),
  fc.array(fc.nat(255)).map((v) => Uint8Array.from(v)),
);
const key = fc.string({ maxLength: 6 }).filter((k) => !k.startsWith("$") && k !== "__proto__");
const states = fc.dictionary(
  key,
  fc.oneof(leaf, fc.array(leaf, { maxLength: 3 }), fc.dictionary(key, leaf, { maxKeys: 3 })),
) as fc.Arbitrary<Checkpoint>;

describe("the state of a run as a file", () => {
  test("comes back to the last bit, whatever it holds, and the same state gives the same bytes", () => {
    fc.assert(
      fc.property(states, (state) => {
        const bytes = packCheckpoint(state);
        expect(unpackCheckpoint(bytes)).toEqual(state);
        expect(packCheckpoint(state)).toEqual(bytes);
        // Also from the middle of other bytes, where it does not begin at a multiple of eight.
        const shifted = new Uint8Array(bytes.length + 3);
        shifted.set(bytes, 3);
        expect(unpackCheckpoint(shifted.subarray(3))).toEqual(state);
      }),
    );
  });
  test("minus zero, no number and without end are kept as they are", () => {
    const state = { a: -0, b: Number.NaN, c: Number.NEGATIVE_INFINITY, d: Float64Array.of(-0, Number.NaN) };
    const back = unpackCheckpoint(packCheckpoint(state));
    expect(Object.is(back.a, -0) && Number.isNaN(back.b) && back.c === Number.NEGATIVE_INFINITY).toBe(true);
    expect(back.d).toEqual(state.d);
  });
  test("arrays are copies: what is restored may be written into", () => {
    const bytes = packCheckpoint({ a: Float64Array.of(1) });
    (unpackCheckpoint(bytes).a as Float64Array)[0] = 7;
    expect(unpackCheckpoint(bytes)).toEqual({ a: Float64Array.of(1) });
  });
  test("states of older versions, which are JSON, are read", () => {
    const state = { iteration: 5, u: Float64Array.of(1, 2) };
    expect(unpackCheckpoint(new TextEncoder().encode(JSON.stringify(toPlain(state))))).toEqual(state);
  });
  test("bytes are hardly more than the numbers", () => {
    const u = new Float64Array(10_000);
    expect(packCheckpoint({ u }).length).toBeLessThan(u.byteLength + 100);
  });
  test("what is cut short or something else is refused", () => {
    const bytes = packCheckpoint({ a: Float64Array.of(1, 2, 3), b: "x" });
    for (const end of [0, 5, 11, 20, bytes.length - 1]) expect(() => unpackCheckpoint(bytes.subarray(0, end))).toThrow(RangeError);
    expect(() => unpackCheckpoint(new TextEncoder().encode("PK something"))).toThrow("no state of a run");
    expect(() => unpackCheckpoint(new TextEncoder().encode("{ not json"))).toThrow("damaged");
  });
  test("whatever byte of it is changed, it is read or refused, and nothing else", () => {
    const bytes = packCheckpoint({ a: Float64Array.of(1, 2, 3), b: "x", c: [Int32Array.of(4), 5], d: { e: null } });
    fc.assert(
      fc.property(fc.nat(bytes.length - 1), fc.nat(255), fc.nat(bytes.length - 1), fc.nat(255), (at, to, alsoAt, also) => {
        const changed = bytes.slice();
        [changed[at], changed[alsoAt]] = [to, also];
        try {
          unpackCheckpoint(changed);
        } catch (error) {
          expect(error).toBeInstanceOf(RangeError);
        }
      }),
      { numRuns: 1000 },
    );
  });
});
