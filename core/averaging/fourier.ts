import FFT from "fft.js";

/** Smallest power of two not below n. */
export function powerOfTwo(n: number): number {
  let p = 2;
  while (p < n) p *= 2;
  return p;
}

/** Squared moduli of the discrete Fourier transform of real data padded with zeros to `size`, bins 0 .. size / 2. */
export function squaredSpectrum(values: Float64Array, size: number): Float64Array {
  const fft = new FFT(size);
  const padded = new Float64Array(size);
  padded.set(values);
  const out = new Float64Array(2 * size);
  fft.realTransform(out, padded);
  const squared = new Float64Array(size / 2 + 1);
  for (let k = 0; k < squared.length; k++) squared[k] = out[2 * k] * out[2 * k] + out[2 * k + 1] * out[2 * k + 1];
  return squared;
}

/** Sums over i of d[i] d[i + lag] for lags 0 .. most, by the transform of the padded data. */
export function laggedProducts(d: Float64Array, most: number): Float64Array {
  const size = powerOfTwo(d.length + most + 1);
  const power = squaredSpectrum(d, size);
  const fft = new FFT(size);
  const spectrum = new Float64Array(2 * size);
  for (let k = 0; k < size; k++) spectrum[2 * k] = power[k <= size / 2 ? k : size - k];
  const out = new Float64Array(2 * size);
  fft.transform(out, spectrum);
  return Float64Array.from({ length: most + 1 }, (_, lag) => out[2 * lag] / size);
}
