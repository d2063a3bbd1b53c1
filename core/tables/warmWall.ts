/** Published figures of the chamber with one warm and one cold wall, Pr 0.71, velocities in diffusivity over side. */
export interface WarmWallTable {
  readonly rayleigh: number;
  readonly nusselt: number;
  readonly uMax: number;
  readonly uMaxAt: number;
  readonly vMax: number;
  readonly vMaxAt: number;
}

export const WARM_WALL_SOURCE = "de Vahl Davis, Int. J. Numer. Methods Fluids 3 (1983) 249; from Ra 1e6 Le Quere, Comput. Fluids 20 (1991) 29";

/**
 * Nusselt numbers to the digits later spectral and fine-mesh studies agree on; the 1983 benchmark itself stated 1.118, 2.243, 4.519 and 8.800.
 * @source Hortmann, Peric & Scheuerer, Int. J. Numer. Methods Fluids 11 (1990) 189 (1e4 to 1e6), Le Quere (1991)
 */
export const WARM_WALL: readonly WarmWallTable[] = [
  { rayleigh: 1e3, nusselt: 1.1178, uMax: 3.649, uMaxAt: 0.813, vMax: 3.697, vMaxAt: 0.178 },
  { rayleigh: 1e4, nusselt: 2.2448, uMax: 16.178, uMaxAt: 0.823, vMax: 19.617, vMaxAt: 0.119 },
  { rayleigh: 1e5, nusselt: 4.5216, uMax: 34.73, uMaxAt: 0.855, vMax: 68.59, vMaxAt: 0.066 },
  { rayleigh: 1e6, nusselt: 8.8252, uMax: 64.83, uMaxAt: 0.85, vMax: 220.6, vMaxAt: 0.0378 },
  { rayleigh: 1e7, nusselt: 16.523, uMax: 148.59, uMaxAt: 0.879, vMax: 699.2, vMaxAt: 0.021 },
  { rayleigh: 1e8, nusselt: 30.225, uMax: 321.9, uMaxAt: 0.928, vMax: 2222.4, vMaxAt: 0.012 },
];

/** relative standard uncertainty of the Nusselt numbers, and of the velocity extrema and their places, from the spread of the sources */
const SPREAD = { nusselt: 0.0002, velocity: 0.002, place: 0.003 } as const;
/** places are printed to three decimals: anything within half a unit of the last is as likely */
const ROUNDED = 0.0005 / Math.sqrt(3);

/** Standard uncertainty of every figure of a table, in its own unit. */
export function warmWallUncertainty(t: WarmWallTable): Readonly<Record<Exclude<keyof WarmWallTable, "rayleigh">, number>> {
  const place = (x: number) => Math.hypot(SPREAD.place * x, ROUNDED);
  return {
    nusselt: SPREAD.nusselt * t.nusselt,
    uMax: SPREAD.velocity * t.uMax,
    vMax: SPREAD.velocity * t.vMax,
    uMaxAt: place(t.uMaxAt),
    vMaxAt: place(t.vMaxAt),
  };
}
