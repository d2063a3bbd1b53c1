/** A complex number as its two parts. */
export type Complex = readonly [re: number, im: number];

/** Quotient of two complex numbers. */
export const divided = ([a, b]: Complex, [c, d]: Complex): Complex => {
  const size = c * c + d * d;
  return [(a * c + b * d) / size, (b * c - a * d) / size];
};

/** Product of two complex numbers. */
export const times = ([a, b]: Complex, [c, d]: Complex): Complex => [a * c - b * d, a * d + b * c];
