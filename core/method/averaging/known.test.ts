import { describe, expect, test } from "vitest";
import { randomFrom } from "../../numeric/random.ts";
import { autoregression, meanOfModel } from "./autoregression.ts";
import { driftOf } from "./drift.ts";
import { powerOfTwo, squaredSpectrum } from "./fourier.ts";
import { batchMeans, batchStandard, meanOf, meanUncertainty } from "./meanUncertainty.ts";
import { averageRecord, evenly, histogram, lastToAverage, runningMean } from "./record.ts";
import { autoregressive, correlated, normal } from "./seriesForTests.ts";
import { slowStartUp } from "./slowStartUp.ts";
import { cyclesCounted, dominantPeak, phaseAverages, welchSpectrum } from "./spectrum.ts";
import { startUpCut } from "./startUp.ts";
import { statistic } from "./statistic.ts";
import { studentT95 } from "./studentT.ts";

const array = (n: number, f: (i: number) => number) => Float64Array.from({ length: n }, (_, i) => f(i));
const index = (n: number) => array(n, (i) => i);
const rules = (r: { doubts: readonly { rule: string }[] }) => r.doubts.map((d) => d.rule);

describe("Student's t", () => {
  test.each([
    [3, 3.182],
    [4, 2.776],
    [8, 2.306],
    [20, 2.086],
    [60, 2.0],
  ])("%d degrees of freedom: %d (Abramowitz & Stegun, table 26.10)", (freedom, t) => expect(studentT95(freedom)).toBeCloseTo(t, 3));
  test("goes to the normal 1.95996; one degree is the tangent of 0.475 pi; none is infinite", () => {
    expect(studentT95(1e7)).toBeCloseTo(1.959964, 5);
    expect(studentT95(1)).toBeCloseTo(Math.tan(0.475 * Math.PI), 6);
    expect(studentT95(2)).toBeCloseTo(0.95 * Math.sqrt(2 / (1 - 0.95 ** 2)), 6);
    expect(studentT95(0)).toBe(Number.POSITIVE_INFINITY);
    expect(studentT95(Number.NaN)).toBe(Number.POSITIVE_INFINITY);
    expect(studentT95(2.5)).toBeLessThan(studentT95(2));
  });
});

describe("autoregressive models", () => {
  test("coefficients of a long record of second order come back; white noise has order none or next to it", () => {
    const model = autoregression(autoregressive(20_000, [1.2, -0.6], 4), 20);
    expect(model.coefficients[0]).toBeCloseTo(1.2, 1);
    expect(model.coefficients[1]).toBeCloseTo(-0.6, 1);
    expect(model.innovation).toBeCloseTo(1, 1);
    // rho(1) = a / (1 - b), rho(2) = a rho(1) + b.
    expect(model.correlations[0]).toBeCloseTo(1.2 / 1.6, 1);
    expect(model.correlations[1]).toBeCloseTo((1.2 * 1.2) / 1.6 - 0.6, 1);
  });
  test("an exact geometric record is explained whole by one coefficient", () => {
    const cosine = autoregression(
      array(400, (i) => Math.cos(0.3 * i)),
      6,
    );
    expect(cosine.innovation).toBeLessThan(1e-3);
    expect(cosine.coefficients.length).toBeGreaterThanOrEqual(2);
  });
  test("the mean by a model of first order: (1 + phi) / (1 - phi) in the limit, less for a finite record", () => {
    const phi = 0.8;
    const model = { coefficients: Float64Array.of(phi), innovation: 1 - phi * phi, correlations: Float64Array.of(phi) };
    const long = meanOfModel(model, 100_000);
    expect(long.atZero).toBeCloseTo(9, 10);
    expect(long.finite).toBeCloseTo(9, 2);
    expect(long.neighbours).toBe(phi);
    // 1 + 2 sum (1 - k/n) phi^k for n = 3.
    expect(meanOfModel(model, 3).finite).toBeCloseTo(1 + 2 * ((2 / 3) * phi + (1 / 3) * phi * phi), 12);
    expect(meanOfModel({ coefficients: new Float64Array(0), innovation: 3, correlations: new Float64Array(0) }, 10)).toEqual({
      atZero: 1,
      finite: 1,
      neighbours: 0,
    });
    const second = { coefficients: Float64Array.of(0.5, 0.2), innovation: 1, correlations: Float64Array.of(0.625, 0.5125) };
    // Variance is the innovation over 1 - a rho1 - b rho2; the sum of all weights squared is 1 / (1 - a - b)^2.
    expect(meanOfModel(second, 1000).atZero).toBeCloseTo((1 / 0.09) * (1 - 0.5 * 0.625 - 0.2 * 0.5125), 10);
  });
});

describe("means", () => {
  test("a record that stands still, or of seven samples, has no uncertainty to speak of", () => {
    expect(meanUncertainty(array(50, () => 3))).toEqual({
      mean: 3,
      deviation: 0,
      correlationSamples: 0.5,
      effectiveSamples: 50,
      standard: 0,
      expanded: 0,
    });
    expect(meanUncertainty(array(7, (i) => i)).expanded).toBe(0);
    expect(meanUncertainty(array(8, (i) => (i * 7) % 5)).expanded).toBeGreaterThan(0);
  });
  test("white noise: the deviation over the root of their number, times Student's t", () => {
    const g = normal(3);
    const y = array(400, () => 5 + 2 * g());
    const m = meanUncertainty(y);
    const s = Math.sqrt(y.reduce((sum, v) => sum + (v - m.mean) ** 2, 0) / 399);
    expect(m.deviation / s).toBeCloseTo(1, 2);
    expect(m.standard / (s / 20)).toBeGreaterThan(0.85);
    expect(m.standard / (s / 20)).toBeLessThan(1.2);
    expect(m.expanded / m.standard).toBeGreaterThan(1.95);
    expect(m.expanded / m.standard).toBeLessThan(2.1);
  });
  test("batch means: twenty of equal length from the end; their scatter is the mean's", () => {
    const y = array(203, (i) => i);
    const means = batchMeans(y);
    expect(means).toHaveLength(20);
    expect(means[1] - means[0]).toBeCloseTo(10, 12);
    const mean = meanOf(means);
    const s = Math.sqrt(means.reduce((sum, v) => sum + (v - mean) ** 2, 0) / 19);
    expect(batchStandard(y)).toBeCloseTo(s / Math.sqrt(20), 10);
    expect(meanOf(Float64Array.of(1, 2, 6))).toBe(3);
  });
});

describe("start-up", () => {
  test("a step is cut where it ends, to the batch of five; never more than half", () => {
    expect(startUpCut(array(200, (i) => (i < 60 ? 10 : (i % 2) * 0.1)))).toEqual({ samples: 60, tooShort: false });
    expect(startUpCut(array(200, (i) => (i < 62 ? 10 : (i % 2) * 0.1))).samples).toBe(65);
    expect(startUpCut(array(200, (i) => i)).tooShort).toBe(true);
    expect(startUpCut(array(19, () => 1))).toEqual({ samples: 0, tooShort: true });
    expect(startUpCut(array(20, (i) => (i % 2) * 0.1)).tooShort).toBe(false);
    expect(startUpCut(array(200, (i) => i)).samples).toBe(100);
  });
  test("a slow decay in noise is seen, cut as far as may be, and the rest is counted", () => {
    const g = normal(8);
    const y = array(1000, (i) => 3 * Math.exp(-i / 150) + 0.3 * g());
    const free = slowStartUp(y, 800);
    expect(free.samples).toBeGreaterThan(400);
    expect(free.left).toBeLessThan(0.05);
    const held = slowStartUp(y, 0);
    expect(held.samples).toBe(0);
    // The mean of the decay over the record is 0.45; twice what cannot be excluded is told.
    expect(held.left).toBeGreaterThan(0.8);
    expect(held.left).toBeLessThan(1.3);
    expect(
      slowStartUp(
        array(19, (i) => i),
        5,
      ),
    ).toEqual({ samples: 0, left: 0 });
    expect(
      slowStartUp(
        array(100, () => 2),
        5,
      ),
    ).toEqual({ samples: 0, left: 0 });
  });
});

describe("a slow start-up against its own formula", () => {
  const n = 1000;
  /** one of the decay times that are tried, samples */
  const timeOf = (k: number) => 20 * 50 ** (k / 13);
  const decaying = (amplitude: number, time: number, deviation: number, seed: number) => {
    const g = normal(seed);
    return array(n, (i) => 5 + amplitude * Math.exp(-(i + 0.5) / time) + deviation * g());
  };
  /** what a decay does to the mean of a record from a sample on */
  const shift = (amplitude: number, time: number, from: number) =>
    ((amplitude * Math.exp(-from / time) * time) / (n - from)) * (1 - Math.exp(-(n - from) / time));
  /** amplitude that cannot be excluded in white noise: two standard errors of a least-squares fit to two hundred block means above it */
  const notExcluded = (amplitude: number, time: number, deviation: number) => {
    const decay = Array.from({ length: 200 }, (_, b) => Math.exp((-(b + 0.5) * 5) / time));
    const middle = decay.reduce((x, y) => x + y) / 200;
    const spread = decay.reduce((x, y) => x + (y - middle) ** 2, 0);
    return amplitude + (2 * (deviation / Math.sqrt(5))) / Math.sqrt(spread);
  };
  const meanOfSeeds = (of: (seed: number) => number) => Array.from({ length: 80 }, (_, k) => of(k + 1)).reduce((x, y) => x + y) / 80;

  test.each([6, 13])("without noise twice the shift of the mean is left, decay time %d of those tried", (k) => {
    const time = timeOf(k);
    expect(slowStartUp(decaying(3, time, 1e-6, 1), 0).left / (2 * shift(3, time, 0))).toBeCloseTo(1, 3);
    expect(slowStartUp(decaying(-3, time, 1e-6, 1), 0).left / (2 * shift(3, time, 0))).toBeCloseTo(1, 3);
  });
  test("in noise the amplitude that cannot be excluded is reckoned with", () => {
    const time = timeOf(6);
    const found = meanOfSeeds((seed) => slowStartUp(decaying(1, time, 0.8, seed), 0).left);
    expect(Math.abs(found / (2 * shift(notExcluded(1, time, 0.8), time, 0)) - 1)).toBeLessThan(0.06);
  });
  test("an amplitude below its own standard error is no start-up", () => {
    const none = Array.from({ length: 40 }, (_, k) => slowStartUp(decaying(0, timeOf(6), 1, k + 1), 0)).filter(
      (s) => s.left === 0 && s.samples === 0,
    );
    // The best of fourteen decay times stays below one standard error in about a third of white records.
    expect(none.length).toBeGreaterThan(6);
    expect(none.length).toBeLessThan(30);
  });
  test("the cut lies where what is left is a fifth of the standard uncertainty of the rest", () => {
    const time = timeOf(6);
    const amplitude = notExcluded(1, time, 0.8);
    let cut = 0;
    while (shift(amplitude, time, cut) > 0.2 * (0.8 / Math.sqrt(n - cut))) cut++;
    const found = meanOfSeeds((seed) => slowStartUp(decaying(1, time, 0.8, seed), 600).samples);
    expect(Math.abs(found / cut - 1)).toBeLessThan(0.1);
  });
});

describe("the scatter of batch means as a floor", () => {
  test("in white noise the uncertainty is never below the batches' by more than 1.25", () => {
    const g = normal(29);
    const y = array(400, () => g());
    expect(batchStandard(y) / meanUncertainty(y).standard).toBeCloseTo(1.25, 9);
    for (let seed = 1; seed < 40; seed++) {
      const h = normal(seed);
      const z = array(400, () => h());
      expect(batchStandard(z) / meanUncertainty(z).standard).toBeLessThan(1.25 + 1e-9);
    }
  });
  test("of a wave the ends of short batches do not cancel: at least three tenths of their variance count", () => {
    const g = normal(7);
    const y = array(2000, (i) => Math.sin((2 * Math.PI * i) / 200 + 0.7) + 0.05 * g());
    expect(meanUncertainty(y).standard / batchStandard(y)).toBeCloseTo(Math.sqrt(0.3) / 1.25, 9);
  });
  test("two ways apart by more than a half are a doubt, with their factor; otherwise none", () => {
    let [doubts, quiet] = [0, 0];
    for (const [period, wave] of [
      [200, 1],
      [150, 1],
      [100, 1],
      [40, 1],
      [400, 1],
      [200, 0.3],
      [133, 0.5],
      [90, 0.05],
    ]) {
      const g = normal(7);
      const y = array(2000, (i) => 0.3 * g() + wave * Math.sin((2 * Math.PI * i) / period + 0.7));
      const r = averageRecord(
        array(2000, (i) => i),
        y,
        { abscissa: "iterations" },
      );
      const apart = Math.max(r.standard / r.batchStandard, r.batchStandard / r.standard);
      const doubt = r.doubts.find((d) => d.rule === "batches-disagree");
      expect([period, doubt !== undefined]).toEqual([period, apart > 1.5]);
      if (doubt) expect(doubt.sentence).toContain(`differ by a factor ${apart.toPrecision(2)}:`);
      if (doubt) doubts++;
      else quiet++;
    }
    expect(doubts).toBeGreaterThan(2);
    expect(quiet).toBeGreaterThan(1);
    const flat = averageRecord(
      array(100, (i) => i),
      array(100, () => 3),
      { abscissa: "iterations" },
    );
    expect(flat.doubts.map((d) => d.rule)).toEqual([]);
  });
});

describe("drift", () => {
  test("a line drifts by two thirds of its rise; noise about a level does not", () => {
    const g = normal(2);
    const d = driftOf(array(900, (i) => i / 300 + 0.05 * g()));
    expect(d.drifts).toBe(true);
    expect(d.change).toBeCloseTo(2, 1);
    expect(d.trend).toBeGreaterThan(4);
    expect(driftOf(array(900, (i) => -i / 300)).trend).toBeLessThan(-4);
    const flat = driftOf(array(900, () => g()));
    expect(flat.drifts).toBe(false);
    expect(Math.abs(flat.change)).toBeLessThan(0.3);
    expect(driftOf(array(2, (i) => i)).change).toBe(0);
  });
  test("the statistic of Mann and Kendall of twenty rising batches: (190 - 1) over the root of 950", () =>
    expect(driftOf(array(400, (i) => i)).trend).toBeCloseTo(189 / Math.sqrt(950), 12));
});

describe("spectra", () => {
  test("powers of two and squared moduli", () => {
    expect([1, 2, 3, 8, 9].map(powerOfTwo)).toEqual([2, 2, 4, 8, 16]);
    const s = squaredSpectrum(
      array(8, (i) => Math.cos((2 * Math.PI * i) / 8)),
      8,
    );
    expect(Array.from(s, (v) => Number(v.toFixed(9)))).toEqual([0, 16, 0, 0, 0]);
    expect(squaredSpectrum(Float64Array.of(3), 4)[2]).toBeCloseTo(9, 12);
  });
  test("a sine of frequency, amplitude and share; nothing below sixteen samples or without a wave", () => {
    const wave = (n: number, periods: number) => array(n, (i) => 7 + 0.5 * Math.sin((2 * Math.PI * periods * i) / n));
    const peak = dominantPeak(wave(512, 20), 0.01);
    expect(peak?.frequency).toBeCloseTo(20 / 5.12, 3);
    expect(peak?.amplitude).toBeCloseTo(0.5, 2);
    expect(peak?.share).toBeCloseTo(1, 2);
    expect(peak?.harmonics.every((h) => h.amplitude < 1e-4)).toBe(true);
    expect(dominantPeak(wave(15, 4), 1)).toBeUndefined();
    expect(
      dominantPeak(
        array(100, () => 4),
        1,
      ),
    ).toBeUndefined();
    // The two lowest lines are the record's drift.
    expect(dominantPeak(wave(512, 1), 1)).toBeUndefined();
    expect(dominantPeak(wave(512, 4), 1)?.frequency).toBeCloseTo(4 / 512, 4);
  });
  test("harmonics by their multiples and amplitudes, up to the fourth", () => {
    const y = array(2048, (i) => [1, 2, 3, 4, 5].reduce((s, k) => s + Math.sin((2 * Math.PI * 40 * k * i) / 2048) / k, 0));
    const found = dominantPeak(y, 1)?.harmonics ?? [];
    expect(found.map((h) => h.multiple)).toEqual([2, 3, 4]);
    found.forEach((h) => {
      expect(h.amplitude).toBeCloseTo(1 / h.multiple, 1);
    });
  });
  test("the density of white noise is its variance over half the sampling rate; segments overlap by half", () => {
    const g = normal(11);
    const { density, frequency, segments } = welchSpectrum(
      array(8192, () => 2 * g()),
      0.5,
      8,
    );
    expect(frequency.at(-1)).toBe(1);
    expect(segments).toBe(15);
    const inner = density.slice(5, -5);
    expect(inner.reduce((a, b) => a + b, 0) / inner.length / 4).toBeCloseTo(1, 1);
  });
  test("phases are twenty-four unless told otherwise", () => {
    expect(
      phaseAverages(
        array(480, (i) => i % 48),
        1,
        1 / 48,
      ),
    ).toHaveLength(24);
  });
  test("phases: means and scatter of equal parts of a period", () => {
    const parts = phaseAverages(
      array(400, (i) => (i % 4 < 2 ? 1 : 3) + (i % 8 < 4 ? 0.5 : -0.5)),
      1,
      0.25,
      2,
    );
    expect(parts).toEqual([
      { phase: 0.25, mean: 1, deviation: 0.5, count: 200 },
      { phase: 0.75, mean: 3, deviation: 0.5, count: 200 },
    ]);
  });
  test("swings smaller than a quarter of the deviation are none", () => {
    const jitter = (i: number) => Math.sin((2 * Math.PI * i) / 100) + 0.1 * (i % 2 ? 1 : -1);
    // The first upward passage has no swing below before it.
    expect(cyclesCounted(array(1000, jitter))).toBe(9);
    expect(cyclesCounted(array(1000, () => 1))).toBe(0);
  });
});

describe("records", () => {
  const g = normal(21);
  const noisy = array(500, () => 4 + 0.2 * g());
  test("what was left out, by whom, and where on the abscissa", () => {
    const r = averageRecord(
      array(500, (i) => 2 + 0.5 * i),
      noisy,
      { abscissa: "s", cut: 100 },
    );
    expect(r).toMatchObject({ cut: 100, cutAt: 52, cutBy: "hand", samples: 400, step: 0.5, evenlySampled: true, gaps: 0 });
    expect(r.mean).toBeCloseTo(meanOf(noisy.subarray(100)), 12);
    expect(r.resolution).toBeCloseTo(1 / 199.5, 12);
    expect(r.correlationTime).toBeCloseTo(0.5 * r.correlationSamples, 12);
    expect(r.lowest).toBe(Math.min(...noisy.subarray(100)));
    expect(r.highest).toBe(Math.max(...noisy.subarray(100)));
    expect(r.halves[0]).toBeCloseTo(meanOf(noisy.subarray(100, 300)), 12);
    expect(r.halves[1]).toBeCloseTo(meanOf(noisy.subarray(300)), 12);
    expect(averageRecord(index(500), noisy, { abscissa: "s" }).cutBy).toBe("test");
  });
  test("a cut beyond what can be spared leaves twenty values, and says that it reaches to half", () => {
    const r = averageRecord(index(500), noisy, { abscissa: "s", cut: 499 });
    expect(r.samples).toBe(20);
    expect(rules(r)).toContain("too-short");
    expect(rules(averageRecord(index(500), noisy, { abscissa: "s", cut: 250 }))).not.toContain("too-short");
    expect(rules(averageRecord(index(500), noisy, { abscissa: "s", cut: 251 }))).toContain("too-short");
  });
  test("twenty values can be averaged, nineteen cannot", () => {
    expect(averageRecord(index(20), noisy.subarray(0, 20), { abscissa: "s", cut: 0 }).samples).toBe(20);
    expect(() => averageRecord(index(19), noisy.subarray(0, 19), { abscissa: "s" })).toThrow("19 values are too few");
  });
  test("fewer than ten independent samples are a doubt", () => {
    const slow = correlated(300, 20, 5);
    const r = averageRecord(index(300), slow, { abscissa: "s", cut: 0 });
    expect(r.effectiveSamples < 10).toBe(rules(r).includes("few-samples"));
    expect(rules(averageRecord(index(500), noisy, { abscissa: "s", cut: 0 }))).not.toContain("few-samples");
  });
  test("six periods and four samples a period are the least to state a frequency, in time only", () => {
    const wave = (periods: number, n = 600, unit = "s") =>
      rules(
        averageRecord(
          index(n),
          array(n, (i) => Math.sin((2 * Math.PI * periods * i) / n)),
          { abscissa: unit, cut: 0 },
        ),
      );
    expect(wave(5.5)).toContain("few-periods");
    expect(wave(6.5)).not.toContain("few-periods");
    expect(wave(5.5, 600, "iterations")).not.toContain("few-periods");
    expect(wave(155)).toContain("coarse-sampling");
    expect(wave(145)).not.toContain("coarse-sampling");
  });
  test("gaps are counted as a share of all, and are a note", () => {
    const y = Array.from(noisy);
    for (const i of [7, 90, 300]) y[i] = Number.NaN;
    const r = averageRecord(index(500), y, { abscissa: "s", cut: 10 });
    const gap = r.doubts.find((d) => d.rule === "gaps");
    expect(gap).toMatchObject({ severity: "note", sentence: "3 entries are missing (0.60\u00a0%) and were left out." });
    const x = Array.from(index(500), (v, i) => (i === 3 ? Number.NaN : v));
    expect(averageRecord(x, noisy, { abscissa: "s", cut: 10 }).gaps).toBe(1);
  });
  test("a mean that drifts is known no better than it moved", () => {
    const r = averageRecord(
      index(600),
      array(600, (i) => i / 100 + 0.05 * g()),
      { abscissa: "iterations", cut: 0 },
    );
    expect(r.drift.drifts).toBe(true);
    expect(r.expanded).toBeGreaterThanOrEqual(r.drift.change);
    expect(rules(r)).toContain("drift");
  });
  test("uneven steps: each value counts for the step that led to it; as many even samples by straight lines", () => {
    const x = [0, 1, 3, 4, 6, 7, 9, 10, 12, 13, 15, 16, 18, 19, 21, 22, 24, 25, 27, 28, 30];
    const y = x.map((_, i) => (i % 2 ? 1 : 2));
    const r = averageRecord(x, y, { abscissa: "s", cut: 0 });
    expect(r.evenlySampled).toBe(false);
    // Ten steps of one second lead to ones, ten of two seconds to twos.
    expect(r.mean).toBeCloseTo((10 * 1 + 20 * 2) / 30, 12);
    expect(Array.from(evenly([0, 1, 3], [0, 10, 30], 1.5))).toEqual([0, 15, 30]);
    expect(Array.from(evenly([0, 1, 2], [5, Number.NaN, 7], 2))).toEqual([5, 7]);
  });
  test("the last N: all of a record at rest, none of one that never rests", () => {
    const last = lastToAverage(noisy) ?? 0;
    expect(last).toBeGreaterThan(200);
    expect(lastToAverage(array(39, () => 1 + 0.1 * g()))).toBeUndefined();
    expect(lastToAverage(array(400, (i) => i))).toBeUndefined();
  });
  test("running means and histograms", () => {
    expect(runningMean([0, 1, 2, 3], [9, 2, 4, 6], 1)).toEqual([
      { at: 1, mean: 2 },
      { at: 2, mean: 3 },
      { at: 3, mean: 4 },
    ]);
    const many = runningMean(
      index(2000),
      array(2000, () => 1),
      0,
      100,
    );
    expect(many.length).toBeLessThanOrEqual(101);
    expect(many.at(-1)).toEqual({ at: 1999, mean: 1 });
    expect(histogram([0, 1, 1, 2, Number.NaN, 4], 4)).toEqual([
      { from: 0, to: 1, count: 1 },
      { from: 1, to: 2, count: 2 },
      { from: 2, to: 3, count: 1 },
      { from: 3, to: 4, count: 1 },
    ]);
    expect(histogram([5, 5], 2).reduce((s, b) => s + b.count, 0)).toBe(2);
  });
});

describe("statistics", () => {
  const scale = { lengthM: 0.2, velocityMS: 4 };
  const wave = array(2000, (i) => 3 + 0.6 * Math.sin(2 * Math.PI * 2.5 * i * 0.01));
  test("of a plain sine", () => {
    expect(statistic(wave, 0.01, "rms", scale)?.value).toBeCloseTo(0.6 / Math.SQRT2, 3);
    expect(statistic(wave, 0.01, "amplitude", scale)?.value).toBeCloseTo(0.6, 2);
    expect(statistic(wave, 0.01, "frequency", scale)?.value).toBeCloseTo(2.5, 3);
    expect(statistic(wave, 0.01, "strouhal", scale)?.value).toBeCloseTo((2.5 * 0.2) / 4, 4);
    expect(statistic(wave, 0.01, "mean", scale)?.value).toBeCloseTo(3, 10);
  });
  test("a frequency is known no better than a tenth of the record's resolution", () => {
    expect(statistic(wave, 0.01, "frequency", scale)?.expanded).toBeGreaterThanOrEqual(0.1 / 20);
    expect(statistic(wave, 0.01, "strouhal", scale)?.expanded).toBeCloseTo((statistic(wave, 0.01, "frequency", scale)?.expanded ?? 0) * 0.05, 12);
  });
  test("too short to divide into four, the resolution itself is what is known", () => {
    const short = array(60, (i) => Math.sin((2 * Math.PI * 5 * i) / 60));
    expect(statistic(short, 1, "frequency", scale)?.expanded).toBeGreaterThanOrEqual(1 / 60);
  });
  test("nothing moves: no deviation", () =>
    expect(
      statistic(
        array(100, () => 2),
        1,
        "rms",
        scale,
      ),
    ).toEqual({ value: 0, expanded: 0 }));
  test("random numbers are the same everywhere", () => {
    const r = randomFrom(1);
    expect([r(), r()].map((v) => v >= 0 && v < 1)).toEqual([true, true]);
    expect(randomFrom(1)()).toBe(randomFrom(1)());
    expect(randomFrom(1)()).not.toBe(randomFrom(2)());
  });
});
