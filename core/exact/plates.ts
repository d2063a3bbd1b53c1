/** Parallel plates a gap apart, the upper one sliding, with a pressure gradient along them. */
export interface PlatesFlow {
  readonly gapM: number;
  readonly wallSpeedMS: number;
  /** dp/dx, Pa/m; negative drives the fluid along x */
  readonly pressureGradientPaM: number;
  readonly viscosityPaS: number;
}

/**
 * Velocity along the plates at height y above the resting one, m/s.
 * @source Exact solution of the Navier-Stokes equations; White, Viscous Fluid Flow, section 3-2.
 */
export function platesVelocity(f: PlatesFlow, yM: number): number {
  return (f.wallSpeedMS * yM) / f.gapM + (f.pressureGradientPaM / (2 * f.viscosityPaS)) * (yM * yM - f.gapM * yM);
}

/** Flow rate per unit depth, m^2/s. */
export function platesFlowRate(f: PlatesFlow): number {
  return (f.wallSpeedMS * f.gapM) / 2 - (f.pressureGradientPaM * f.gapM ** 3) / (12 * f.viscosityPaS);
}

/** Shear stress mu du/dy at the resting (y = 0) and the sliding plate (y = gap), Pa. */
export function platesShear(f: PlatesFlow): { resting: number; sliding: number } {
  const slide = (f.viscosityPaS * f.wallSpeedMS) / f.gapM;
  const push = (f.pressureGradientPaM * f.gapM) / 2;
  return { resting: slide - push, sliding: slide + push };
}
