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
