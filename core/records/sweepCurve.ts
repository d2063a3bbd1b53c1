import type { Profile } from "./profile.ts";

/** A finished run of a sweep over one condition: where it lies, on which mesh, and what it delivered. */
export interface SweepPoint {
  readonly at: number;
  readonly quantities: Readonly<Record<string, number>>;
}

/** Runs over one condition on one mesh. */
export interface SweepRuns {
  readonly axis: { readonly key: string; readonly label: string; readonly unit: string };
  /** of another code; the bench's own unless given */
  readonly code?: string;
  readonly mesh: {
    readonly label: string;
    /** of the bench's meshes */
    readonly nx?: number;
    readonly ny?: number;
    /** relative: one over the root of the number of cells, since the size of the domain may be what is varied */
    readonly spacing: number;
  };
  readonly points: readonly SweepPoint[];
}

/** A quantity over a condition, as the finest mesh has it, with what a coarser one tells of its mesh uncertainty. */
export interface SweepCurve {
  /** the profile's key, with its code where that is not the bench */
  readonly id: string;
  readonly axisKey: string;
  readonly code: string;
  /** the first code that has the curve: the others stand beside it */
  readonly leading: boolean;
  readonly mesh: SweepRuns["mesh"];
  readonly profile: Profile;
  /** 95 % at rising places, of those that two meshes have */
  readonly band?: { readonly at: readonly number[]; readonly band: readonly number[] };
}
