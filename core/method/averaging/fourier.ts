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

/** places after which the rotating factor is taken from the functions again, before its rounding adds up */
const RENEWED = 64;

/**
 * Squared moduli of the discrete Fourier transform of real data padded with zeros to `size`, bins 0 .. size / 2. Even and odd samples are the
 * two parts of one complex record of half the length, whose transform is taken apart again: half the work and memory of a complex one.
 * @param size a power of two, at least 4
 * @source Cooley, Lewis & Welch, J. Sound Vib. 12 (1970) 315.
 */
export function squaredSpectrum(values: Float64Array, size: number): Float64Array {
  const half = size / 2;
  const padded = new Float64Array(size);
  padded.set(values);
  const z = new Float64Array(size);
  transform(half).transform(z, padded);
  const squared = new Float64Array(half + 1);
  squared[0] = (z[0] + z[1]) ** 2;
  squared[half] = (z[0] - z[1]) ** 2;
  const angle = (-2 * Math.PI) / size;
  const [turnX, turnY] = [Math.cos(angle), Math.sin(angle)];
  let [x, y] = [1, 0];
  for (let k = 1; k < half; k++) {
    [x, y] = k % RENEWED ? [x * turnX - y * turnY, x * turnY + y * turnX] : [Math.cos(angle * k), Math.sin(angle * k)];
    const [a, b, c, d] = [z[2 * k], z[2 * k + 1], z[size - 2 * k], z[size - 2 * k + 1]];
    const [oddX, oddY] = [0.5 * (b + d), 0.5 * (c - a)];
    const re = 0.5 * (a + c) + x * oddX - y * oddY;
    const im = 0.5 * (b - d) + x * oddY + y * oddX;
    squared[k] = re * re + im * im;
  }
  return squared;
}
