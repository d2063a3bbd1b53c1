export type Vector = readonly [number, number, number];

/** names of the axes */
export const AXES = ["x", "y", "z"] as const;

export const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const plus = (a: Vector, b: Vector): Vector => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const times = (a: Vector, s: number): Vector => [a[0] * s, a[1] * s, a[2] * s];
export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vector, b: Vector): Vector => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
export const size = (a: Vector): number => Math.sqrt(dot(a, a));

/** Point q of [x0, y0, z0, ...]. */
export const at = (points: Float64Array, q: number): Vector => [points[3 * q], points[3 * q + 1], points[3 * q + 2]];
