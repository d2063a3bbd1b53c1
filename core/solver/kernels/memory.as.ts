// How the compiled loops reach into their one memory: addresses are bytes.

// @ts-expect-error: decorator
@inline
export function real(at: usize, i: usize): f64 {
  return load<f64>(at + (i << 3));
}

// @ts-expect-error: decorator
@inline
export function index(at: usize, i: usize): usize {
  return <usize>load<i32>(at + (i << 2));
}

// @ts-expect-error: decorator
@inline
export function add(at: usize, i: usize, x: f64): void {
  const p = at + (i << 3);
  store<f64>(p, load<f64>(p) + x);
}

// @ts-expect-error: decorator
@inline
export function take(at: usize, i: usize, x: f64): void {
  const p = at + (i << 3);
  store<f64>(p, load<f64>(p) - x);
}

// @ts-expect-error: decorator
@inline
export function put(at: usize, i: usize, x: f64): void {
  store<f64>(at + (i << 3), x);
}

// @ts-expect-error: decorator
@inline
export function single(at: usize, i: usize): f32 {
  return load<f32>(at + (i << 2));
}

// @ts-expect-error: decorator
@inline
export function putSingle(at: usize, i: usize, x: f32): void {
  store<f32>(at + (i << 2), x);
}

// @ts-expect-error: decorator
@inline
export function addSingle(at: usize, i: usize, x: f32): void {
  const p = at + (i << 2);
  store<f32>(p, load<f32>(p) + x);
}

/** One number of each of two arrays, so that both are worked on at once. */
// @ts-expect-error: decorator
@inline
export function both(first: usize, second: usize, i: usize): v128 {
  const at = i << 3;
  return v128.load_lane<f64>(second + at, v128.load_zero<f64>(first + at), 1);
}

// @ts-expect-error: decorator
@inline
export function sumOf(x: v128): f64 {
  return v128.extract_lane<f64>(x, 0) + v128.extract_lane<f64>(x, 1);
}
