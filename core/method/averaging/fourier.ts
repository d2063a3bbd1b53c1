import FFT from "fft.js";

/** Smallest power of two not below n. */
export function powerOfTwo(n: number): number {
  let p = 2;
  while (p < n) p *= 2;
  return p;
}

let last: { readonly size: number; readonly fft: FFT } | undefined;

/** A transform of a size; its tables take as long as a transform itself, and the next record is mostly as long as the last. */
function transform(size: number): FFT {
  if (last?.size !== size) last = { size, fft: new FFT(size) };
  return last.fft;
}

/** Squared moduli of the discrete Fourier transform of real data padded with zeros to `size`, bins 0 .. size / 2. */
export function squaredSpectrum(values: Float64Array, size: number): Float64Array {
  const padded = new Float64Array(size);
  padded.set(values);
  const out = new Float64Array(2 * size);
  transform(size).realTransform(out, padded);
  const squared = new Float64Array(size / 2 + 1);
  for (let k = 0; k < squared.length; k++) squared[k] = out[2 * k] * out[2 * k] + out[2 * k + 1] * out[2 * k + 1];
  return squared;
}
