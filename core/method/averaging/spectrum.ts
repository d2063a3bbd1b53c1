import { rulesOf } from "../../remarks/rule.ts";
import { powerOfTwo, squaredSpectrum } from "./fourier.ts";

export interface Spectrum {
  /** Hz, or per sample where the step is 1 */
  readonly frequency: Float64Array;
  /** one-sided power density, square of the quantity's unit per Hz */
  readonly density: Float64Array;
  readonly segments: number;
}

export interface Peak {
  readonly frequency: number;
  /** half of peak to peak of the wave that would carry the peak's power */
  readonly amplitude: number;
  /** power of the peak over that of the whole record */
  readonly share: number;
  /** multiples of the frequency that stand out as well */
  readonly harmonics: readonly { readonly multiple: number; readonly amplitude: number }[];
}

function hann(size: number): Float64Array {
  const window = new Float64Array(size);
  for (let i = 0; i < size; i++) window[i] = 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size);
  return window;
}

function withoutMean(values: Float64Array): Float64Array {
  let mean = 0;
  for (let i = 0; i < values.length; i++) mean += values[i] / values.length;
  const out = new Float64Array(values.length);
  for (let i = 0; i < values.length; i++) out[i] = values[i] - mean;
  return out;
}

/**
 * Power density by Welch's method: Hann windows overlapping by half.
 * @param step sampling interval
 * @param parts about how many window lengths the record is divided into
 * @source Welch, IEEE Trans. Audio Electroacoust. 15 (1967) 70.
 */
export function welchSpectrum(values: Float64Array, step: number, parts = 8): Spectrum {
  const d = withoutMean(values);
  let size = powerOfTwo(Math.max(8, Math.floor(d.length / parts)) + 1) / 2;
  size = Math.max(4, Math.min(size, powerOfTwo(d.length + 1) / 2));
  const window = hann(size);
  const weight = window.reduce((s, w) => s + w * w, 0);
  const piece = new Float64Array(size);
  const density = new Float64Array(size / 2 + 1);
  let segments = 0;
  for (let from = 0; from + size <= d.length; from += size / 2) {
    for (let i = 0; i < size; i++) piece[i] = d[from + i] * window[i];
    const squared = squaredSpectrum(piece, size);
    for (let k = 0; k <= size / 2; k++) density[k] += squared[k];
    segments++;
  }
  for (let k = 0; k < density.length; k++) density[k] *= (step * (k === 0 || k === size / 2 ? 1 : 2)) / (weight * Math.max(1, segments));
  return { frequency: Float64Array.from(density, (_, k) => k / (size * step)), density, segments };
}

/** how far a peak must stand above the median of its neighbourhood */
const STANDS_OUT = 12;
const HARMONICS = 4;

/**
 * Dominant frequency, refined by a parabola in the logarithm of the whole record's windowed spectrum; undefined where nothing stands out.
 * The resolution of a record is one over its length.
 */
export function dominantPeak(values: Float64Array, step: number): Peak | undefined {
  const n = values.length;
  if (n < 16) return undefined;
  const d = withoutMean(values);
  let power = 0;
  for (let i = 0; i < n; i++) power += (d[i] * d[i]) / n;
  if (!(power > 0)) return undefined;
  const window = hann(n);
  for (let i = 0; i < n; i++) d[i] *= window[i];
  // Twice as long with zeros: a parabola through three lines then follows the window's lobe wherever the frequency lies between them.
  const size = powerOfTwo(2 * n);
  const spectrum = squaredSpectrum(d, size);
  const perBin = size / n;
  // The lowest two lines of the record are its drift, not an oscillation.
  const first = Math.ceil(2 * perBin);
  let k = first;
  for (let i = first; i < spectrum.length - 1; i++) if (spectrum[i] > spectrum[k]) k = i;
  if (k <= first || k >= spectrum.length - 2 || spectrum[k] < STANDS_OUT * background(spectrum, k, perBin)) return undefined;
  const frequency = refine(spectrum, k).bin / (size * step);
  const amplitudeAt = (bin: number) => (4 * Math.sqrt(refine(spectrum, bin).power)) / n;
  const amplitude = amplitudeAt(k);
  const harmonics = [];
  for (let multiple = 2; multiple <= HARMONICS; multiple++) {
    const centre = Math.round(multiple * frequency * size * step);
    if (centre + 2 * perBin >= spectrum.length) break;
    let best = centre;
    for (let i = Math.floor(centre - 2 * perBin); i <= centre + 2 * perBin; i++) if (spectrum[i] > spectrum[best]) best = i;
    if (spectrum[best] > STANDS_OUT * background(spectrum, best, perBin)) harmonics.push({ multiple, amplitude: amplitudeAt(best) });
  }
  return { frequency, amplitude, share: Math.min(1, amplitude ** 2 / 2 / power), harmonics };
}

/** Place and height of a peak by a parabola through the logarithms of its line and the two beside it. */
function refine(spectrum: Float64Array, k: number): { bin: number; power: number } {
  const [a, b, c] = [k - 1, k, k + 1].map((i) => Math.log(Math.max(spectrum[i] ?? 0, 1e-300)));
  const bend = a - 2 * b + c;
  if (!(bend < 0)) return { bin: k, power: spectrum[k] };
  const away = (0.5 * (a - c)) / bend;
  return { bin: k + away, power: Math.exp(b - 0.25 * (a - c) * away) };
}

/** Median of the lines within a factor of two of a frequency, the peak's own left out. */
function background(spectrum: Float64Array, k: number, perBin: number): number {
  const around: number[] = [];
  const stride = Math.max(1, Math.floor((1.5 * k) / 400));
  for (let i = Math.max(1, Math.floor(k / 2)); i < Math.min(spectrum.length, 2 * k); i += stride)
    if (Math.abs(i - k) > 3 * perBin) around.push(spectrum[i]);
  if (!around.length) return 0;
  return around.sort((a, b) => a - b)[around.length >> 1];
}

/** Mean and deviation of a record in equal parts of a period. */
export function phaseAverages(values: Float64Array, step: number, frequency: number, bins = 24) {
  const count = new Float64Array(bins);
  const sum = new Float64Array(bins);
  const squares = new Float64Array(bins);
  for (let i = 0; i < values.length; i++) {
    const phase = (i * step * frequency) % 1;
    const b = Math.min(bins - 1, Math.floor(phase * bins));
    count[b]++;
    sum[b] += values[i];
    squares[b] += values[i] ** 2;
  }
  return Array.from({ length: bins }, (_, b) => {
    const mean = sum[b] / count[b];
    return { phase: (b + 0.5) / bins, mean, deviation: Math.sqrt(Math.max(0, squares[b] / count[b] - mean * mean)), count: count[b] };
  });
}

/** Upward passages of the mean by whole swings: the record must have been a quarter of its deviation below since the last one. */
export function cyclesCounted(values: Float64Array): number {
  let mean = 0;
  for (let i = 0; i < values.length; i++) mean += values[i] / values.length;
  let power = 0;
  for (let i = 0; i < values.length; i++) power += (values[i] - mean) ** 2 / values.length;
  const margin = 0.25 * Math.sqrt(power);
  let [below, cycles] = [false, 0];
  for (let i = 0; i < values.length; i++) {
    if (values[i] < mean - margin) below = true;
    else if (below && values[i] > mean + margin) {
      cycles++;
      below = false;
    }
  }
  return cycles;
}

/** The rules of this file in words. */
export const SPECTRUM_RULES = rulesOf("core/method/averaging/spectrum.ts", [
  {
    rule: "average-few-periods",
    text: "The dominant frequency is the highest line of the windowed spectrum, refined by a parabola in its logarithm; six periods are the least, the resolution is one over the record's length.",
    source: "Welch 1967",
  },
]);
