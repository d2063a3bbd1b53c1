declare module "fft.js" {
  /** Complex numbers lie interleaved; the size is a power of two. */
  export default class FFT {
    constructor(size: number);
    realTransform(out: ArrayLike<number>, data: ArrayLike<number>): void;
    transform(out: ArrayLike<number>, data: ArrayLike<number>): void;
  }
}
