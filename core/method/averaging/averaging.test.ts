import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { randomFrom } from "../../numeric/random.ts";
import { driftOf } from "./drift.ts";
import { meanUncertainty } from "./meanUncertainty.ts";
import { averageRecord, histogram, lastToAverage, runningMean } from "./record.ts";
import { correlated, normal } from "./seriesForTests.ts";
import { cyclesCounted, dominantPeak, phaseAverages, welchSpectrum } from "./spectrum.ts";
import { startUpCut } from "./startUp.ts";
import { studentT95 } from "./studentT.ts";

const index = (n: number) => Float64Array.from({ length: n }, (_, i) => i);
const iterations = { abscissa: "iterations" };

test("Student's t at published points", () => {
  // Abramowitz & Stegun, table 26.10.
  for (const [freedom, t] of [
    [1, 12.706],
    [2, 4.303],
    [5, 2.571],
    [10, 2.228],
    [30, 2.042],
    [120, 1.98],
  ])
    expect(studentT95(freedom)).toBeCloseTo(t, 3);
});

describe("uncertainty of the mean", () => {
  test("never more independent samples than there are, twice as many at most where neighbours alternate", () => {
    const alternating = meanUncertainty(Float64Array.from({ length: 200 }, (_, i) => (i % 2 ? 1 : -1) + 0.01 * Math.sin(i * i)));
    expect(alternating.effectiveSamples).toBeLessThanOrEqual(400);
    const white = meanUncertainty(correlated(200, 0.5, 4));
    expect(white.effectiveSamples).toBeLessThanOrEqual(200);
    expect(white.effectiveSamples).toBeGreaterThan(150);
  });
  test("a hundred thousand samples in blocks know their mean as well as all of them", () => {
    const y = correlated(100_000, 30, 9);
    const truth = Math.sqrt((2 * 30) / 100_000);
    expect(Math.abs(meanUncertainty(y).standard / truth - 1)).toBeLessThan(0.1);
  });
  test("scaling and shifting a record scales and shifts its mean and uncertainty", () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        fc.double({ min: -50, max: 50, noNaN: true }),
        (seed, scale, shift) => {
          const y = correlated(600, 4, seed);
          const a = meanUncertainty(y);
          const b = meanUncertainty(y.map((v) => scale * v + shift));
          expect(b.mean).toBeCloseTo(scale * a.mean + shift, 8);
          expect(b.expanded / (scale * a.expanded)).toBeCloseTo(1, 6);
          expect(b.effectiveSamples / a.effectiveSamples).toBeCloseTo(1, 6);
        },
      ),
      { numRuns: 25 },
    ));
  test("shuffling destroys the correlation and nothing else", () => {
    const y = correlated(4000, 20, 3);
    const random = randomFrom(8);
    const shuffled = y.slice();
    for (let i = shuffled.length - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1));
      [shuffled[i], shuffled[j]] = [shuffled[j], shuffled[i]];
    }
    const [a, b] = [meanUncertainty(y), meanUncertainty(shuffled)];
    expect(b.mean).toBeCloseTo(a.mean, 12);
    expect(b.correlationSamples).toBeLessThan(0.7);
    expect(a.expanded / b.expanded).toBeGreaterThan(4);
  });
});

describe("start-up", () => {
  const noisy = (n: number, start: (i: number) => number, seed: number) => {
    const g = normal(seed);
    return Float64Array.from({ length: n }, (_, i) => start(i) + 0.2 * g());
  };
  /** Where cutting an exponential pays best on average: least expected squared error of the mean of what is left, in batches of five. */
  const bestCut = (n: number, start: (i: number) => number, noise: number) => {
    const batches = n / 5;
    const bias = Array.from({ length: batches }, (_, b) => [0, 1, 2, 3, 4].reduce((s, k) => s + start(5 * b + k) / 5, 0));
    let [sum, squares, least, at] = [0, 0, Number.POSITIVE_INFINITY, 0];
    for (let b = batches - 1; b >= 0; b--) {
      sum += bias[b];
      squares += bias[b] ** 2;
      const left = batches - b;
      const expected = (squares - (sum * sum) / left + ((left - 1) * noise * noise) / 5) / (left * left);
      if (left >= batches / 2 && expected <= least) [least, at] = [expected, b];
    }
    return 5 * at;
  };
  test("the cut is within 10 % of where a ramp ends, and of where cutting an exponential pays best", () => {
    const noisyOnes: number[] = [];
    for (let seed = 1; seed <= 10; seed++) {
      const length = 300 + 40 * seed;
      const ramp = startUpCut(noisy(2400, (i) => (i < length ? 8 * (1 - i / length) : 0), seed));
      expect(Math.abs(ramp.samples / length - 1)).toBeLessThan(0.1);
      expect(ramp.tooShort).toBe(false);
      const fall = (i: number) => Math.exp(-i / (60 + 5 * seed));
      const away = (height: number) =>
        Math.abs(startUpCut(noisy(2400, (i) => height * fall(i), seed + 50)).samples / bestCut(2400, (i) => height * fall(i), 0.2) - 1);
      // A thousand times the noise, as a run from rest has it.
      expect(away(200)).toBeLessThan(0.1);
      noisyOnes.push(away(10));
    }
    // At fifty times the noise one record in ten may lead further off.
    noisyOnes.sort((a, b) => a - b);
    expect(noisyOnes[8]).toBeLessThan(0.1);
    expect(noisyOnes[9]).toBeLessThan(0.35);
  });
  test("a record that never leaves its start-up says so", () => {
    const r = averageRecord(
      index(1000),
      noisy(1000, (i) => i / 100, 4),
      iterations,
    );
    expect(r.doubts.map((d) => d.rule)).toContain("too-short");
  });
  test("what a start-up leaves at the end of the record is said and widens the interval", () => {
    const y = correlated(1000, 1, 3).map((v, i) => v + 3 * Math.exp(-i / 700));
    const r = averageRecord(index(1000), y, iterations);
    expect(r.startUpLeft).toBeGreaterThan(0.3);
    expect(r.expanded).toBeGreaterThanOrEqual(r.startUpLeft);
    expect(r.doubts.map((d) => d.rule)).toContain("slow-start-up");
  });
  test("a cut by hand is kept", () => expect(averageRecord(index(1000), correlated(1000, 2, 1), { ...iterations, cut: 123 }).cut).toBe(123));
});

describe("frequencies", () => {
  test("a sine in noise: within a tenth of the resolution, its amplitude, its periods counted", () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.double({ min: 8.3, max: 60, noNaN: true }), (seed, periods) => {
        const g = normal(seed);
        const n = 3000;
        const step = 0.01;
        const frequency = periods / (n * step);
        const y = Float64Array.from({ length: n }, (_, i) => 3 + Math.sin(2 * Math.PI * frequency * i * step) + 0.5 * g());
        const peak = dominantPeak(y, step);
        expect(Math.abs((peak?.frequency ?? 0) - frequency)).toBeLessThan(0.1 / (n * step));
        expect(Math.abs((peak?.amplitude ?? 0) - 1)).toBeLessThan(0.1);
      }),
      { numRuns: 60 },
    ));
  test("a sine keeps its amplitude and share within 1 % wherever it lies between two lines", () => {
    for (const n of [1000, 1024, 1500, 4096])
      for (let part = 0; part < 1; part += 0.125) {
        const y = Float64Array.from({ length: n }, (_, i) => 0.33 * Math.sin((2 * Math.PI * (30 + part) * i) / n + 0.4));
        const peak = dominantPeak(y, 1);
        expect(Math.abs((peak?.amplitude ?? 0) / 0.33 - 1)).toBeLessThan(0.01);
        expect(Math.abs((peak?.share ?? 0) - 1)).toBeLessThan(0.02);
      }
  });
  test("harmonics are found where they are, noise alone has no peak", () => {
    const y = Float64Array.from({ length: 4096 }, (_, i) => Math.sin(i * 0.2) + 0.3 * Math.sin(i * 0.6 + 1) + 0.02 * Math.sin(i * 7));
    expect(dominantPeak(y, 1)?.harmonics.map((h) => h.multiple)).toContain(3);
    const g = normal(5);
    const peaks = Array.from({ length: 20 }, () => dominantPeak(Float64Array.from({ length: 2000 }, g), 1)).filter((p) => p && p.share > 0.05);
    expect(peaks).toEqual([]);
  });
  test("the density integrates to the variance", () => {
    const y = correlated(20000, 3, 12);
    const { frequency, density } = welchSpectrum(y, 0.5);
    const total = density.reduce((s, d) => s + d * (frequency[1] - frequency[0]), 0);
    expect(Math.abs(total / meanUncertainty(y).deviation ** 2 - 1)).toBeLessThan(0.05);
  });
  test("phase averages give the wave back; swings are counted", () => {
    const y = Float64Array.from({ length: 5000 }, (_, i) => 2 + Math.cos((2 * Math.PI * i) / 100));
    for (const { phase, mean } of phaseAverages(y, 1, 0.01, 20)) expect(mean).toBeCloseTo(2 + Math.cos(2 * Math.PI * (phase - 0.005)), 1);
    expect(cyclesCounted(y)).toBe(50);
  });
  test("few periods and coarse sampling are doubts", () => {
    const few = averageRecord(
      index(600),
      Float64Array.from({ length: 600 }, (_, i) => Math.sin((2 * Math.PI * i) / 150)),
      { abscissa: "s", cut: 0 },
    );
    expect(few.doubts.map((d) => d.rule)).toContain("few-periods");
    const coarse = averageRecord(
      index(600),
      Float64Array.from({ length: 600 }, (_, i) => Math.sin(2.2 * i)),
      { abscissa: "s", cut: 0 },
    );
    expect(coarse.doubts.map((d) => d.rule)).toContain("coarse-sampling");
  });
});

describe("records as they come", () => {
  test("unequal steps weigh by their length", () => {
    const random = randomFrom(2);
    const x = [0];
    const y = [0];
    for (let i = 1; i < 3000; i++) {
      // Small steps while the value is high: counting samples alone would give far too much.
      const high = Math.floor(x[i - 1] / 5) % 2 === 0;
      x.push(x[i - 1] + (high ? 0.01 : 0.1) * (0.5 + random()));
      y.push(high ? 1 : 0);
    }
    const r = averageRecord(x, y, { abscissa: "s", cut: 0 });
    expect(r.evenlySampled).toBe(false);
    expect(Math.abs(r.mean - 0.5)).toBeLessThan(0.03);
    expect(Math.abs(y.reduce((s, v) => s + v, 0) / y.length - 0.5)).toBeGreaterThan(0.3);
  });
  test("gaps are left out and counted; what does not rise is refused at its entry", () => {
    const y = correlated(500, 1, 3);
    y[7] = y[90] = Number.NaN;
    expect(averageRecord(index(500), y, iterations).gaps).toBe(2);
    const x = index(500);
    x[40] = 3;
    expect(() => averageRecord(x, correlated(500, 1, 3), iterations)).toThrow(/entry 41/);
    expect(() => averageRecord([1, 2], [3, 4], iterations)).toThrow(/too few/);
  });
  test("a drifting mean is a doubt; a steady one is none", () => {
    const g = normal(6);
    const drifting = Float64Array.from({ length: 2000 }, (_, i) => i / 1000 + 0.3 * g());
    expect(averageRecord(index(2000), drifting, { ...iterations, cut: 0 }).doubts.map((d) => d.rule)).toContain("drift");
    let alarms = 0;
    for (let s = 0; s < 200; s++) if (driftOf(correlated(2000, 4, s)).drifts) alarms++;
    expect(alarms).toBeLessThan(10);
  });
  test("the last N of a run that never quite settles", () => {
    const g = normal(7);
    const y = Float64Array.from({ length: 1500 }, (_, i) => 5 * Math.exp(-i / 80) + 0.05 * g());
    const last = lastToAverage(y) ?? 0;
    expect(last).toBeGreaterThan(700);
    expect(last).toBeLessThan(1400);
    expect(lastToAverage(index(300))).toBeUndefined();
  });
  test("running mean ends at the mean; a histogram loses nobody", () => {
    const y = correlated(1000, 3, 1);
    expect(runningMean(index(1000), y, 100).at(-1)?.mean).toBeCloseTo(meanUncertainty(y.subarray(100)).mean, 12);
    expect(histogram(y).reduce((s, b) => s + b.count, 0)).toBe(1000);
  });
});
