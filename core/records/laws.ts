/** Rules a flow must obey whatever its numbers are. */
export const LAWS = ["wall-flow", "total-pressure", "entropy", "total-enthalpy", "mirror", "no-lift", "efficiency-below-one"] as const;

export type Law = (typeof LAWS)[number];

/** How far a run is from obeying one rule, as a share of what the rule speaks of. */
export interface LawReading {
  readonly law: Law;
  readonly share: number;
}

/** A quantity worked out in two ways that share neither faces nor differences. */
export interface SecondReading {
  readonly quantityKey?: string;
  readonly name: string;
  readonly unit: string;
  readonly first: number;
  readonly firstBy: string;
  readonly second: number;
  readonly secondBy: string;
}
