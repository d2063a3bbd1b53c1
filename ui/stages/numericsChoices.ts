/** The numerics a person may choose, in words. */
export const SCHEME_CHOICES = [
  ["central", "central, second order"],
  ["linear-upwind", "linear upwind, second order"],
  ["limited", "limited, second order where smooth"],
  ["upwind", "upwind, first order"],
] as const;

export const RIEMANN_FLUX_CHOICES = [
  ["contact", "contact kept (HLLC)"],
  ["linearised", "linearised (Roe)"],
] as const;

export const LIMITER_CHOICES = [
  ["none", "none, for smooth flow"],
  ["smooth", "smooth, lets a steady flow settle"],
  ["bounds", "bounds, for shocks in time"],
  ["first-order", "first order"],
] as const;
