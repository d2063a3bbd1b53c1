export interface FluidOfRun {
  readonly densityKgM3: number;
  readonly gamma?: number;
}

/** The fluid as the parameters of a run give it. */
export function fluidOfRun(parameters: Readonly<Record<string, number>>): FluidOfRun {
  return { densityKgM3: parameters.densityKgM3 ?? 1, gamma: parameters.gamma };
}

/** A stored field in words. */
export function fieldName(key: string, revolved = false): string {
  const names: Readonly<Record<string, string>> = {
    u: "velocity along x",
    v: revolved ? "velocity from the axis" : "velocity along y",
    p: "pressure",
  };
  return names[key] ?? key;
}
