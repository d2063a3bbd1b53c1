// Between the pressure solver in double precision and its preconditioner in single precision. Each loop is as long as the first array it is given;
// its compiled twin in single.as.ts takes the same arguments in the same order.

/** Rounded to single precision, after a factor that keeps it in range. */
export function toSingle(from: Float64Array, factor: number, to: Float32Array): void {
  for (let i = 0; i < from.length; i++) to[i] = from[i] * factor;
}

/** Products of z with two vectors. */
export function mixedDots(z: Float32Array, a: Float64Array, b: Float64Array, out: Float64Array): void {
  let [s, t] = [0, 0];
  for (let i = 0; i < z.length; i++) {
    s += z[i] * a[i];
    t += z[i] * b[i];
  }
  out[0] = s;
  out[1] = t;
}

/** p = z + beta p. */
export function turnDirection(z: Float32Array, beta: number, p: Float64Array): void {
  for (let i = 0; i < z.length; i++) p[i] = z[i] + beta * p[i];
}
