/** determinant over the cube of a third of the trace below which three equations have no one answer */
const SINGULAR = 1e-10;

/**
 * Solves three equations with a symmetric matrix that has no negative eigenvalue.
 * @param m [xx, xy, xz, yy, yz, zz]
 * @param b right side, from b[at]
 * @param out the answer, from out[to]; NaN where the matrix is singular
 */
export function solveSymmetric3(m: Float64Array, b: Float64Array, at: number, out: Float64Array, to: number): void {
  const [xx, xy, xz, yy, yz, zz] = m;
  const [cxx, cxy, cxz] = [yy * zz - yz * yz, xz * yz - xy * zz, xy * yz - yy * xz];
  const det = xx * cxx + xy * cxy + xz * cxz;
  if (!(det > SINGULAR * ((xx + yy + zz) / 3) ** 3)) {
    out.fill(Number.NaN, to, to + 3);
    return;
  }
  const [cyy, cyz, czz] = [xx * zz - xz * xz, xy * xz - xx * yz, xx * yy - xy * xy];
  const [p, q, r] = [b[at], b[at + 1], b[at + 2]];
  out[to] = (cxx * p + cxy * q + cxz * r) / det;
  out[to + 1] = (cxy * p + cyy * q + cyz * r) / det;
  out[to + 2] = (cxz * p + cyz * q + czz * r) / det;
}

/**
 * Eigenvalues of a symmetric matrix of three rows, greatest first.
 * @source O. K. Smith, Comm. ACM 4 (1961) 168: the trigonometric solution of the characteristic equation
 * @example
 * eigenvaluesSymmetric3(4, 0, 0, 4, 0, 4) // [4, 4, 4]
 */
export function eigenvaluesSymmetric3(xx: number, xy: number, xz: number, yy: number, yz: number, zz: number): [number, number, number] {
  const mean = (xx + yy + zz) / 3;
  const spread = Math.sqrt(((xx - mean) ** 2 + (yy - mean) ** 2 + (zz - mean) ** 2 + 2 * (xy * xy + xz * xz + yz * yz)) / 6);
  if (spread === 0) return [mean, mean, mean];
  // Counted in the spread, so that nothing small is cubed.
  const [a, b, c, d, e, f] = [xx - mean, yy - mean, zz - mean, xy, xz, yz].map((v) => v / spread);
  const half = (a * (b * c - f * f) - d * (d * c - f * e) + e * (d * f - b * e)) / 2;
  const angle = Math.acos(Math.min(1, Math.max(-1, half))) / 3;
  const first = mean + 2 * spread * Math.cos(angle);
  const last = mean + 2 * spread * Math.cos(angle + (2 * Math.PI) / 3);
  return [first, 3 * mean - first - last, last];
}
