import { size, type Vector } from "../dataset/vector.ts";
import type { BalanceRecord, BoundaryFlux } from "../records/balance.ts";
import type { PatchFound, SurfaceFound } from "../records/surfaces.ts";

/** what passes a wall is less than this share of the largest flow through any patch */
const WALL = 1e-6;

/**
 * Balance over the patches of a surface that bounds the fluid: mass, and momentum where the surface is closed and all that acts on it is known.
 * @returns nothing where the surface has no velocity
 */
export function balanceOf(found: SurfaceFound): BalanceRecord | undefined {
  const all: PatchFound[] = [...found.patches, ...(found.unnamed ? [{ name: "without a name", ...found.unnamed }] : [])];
  const largest = Math.max(0, ...all.map((p) => p.flow?.massWithoutSign ?? 0));
  if (!found.has.velocity || !(largest > 0)) return undefined;
  const closedBy = (p: PatchFound) => (p.flow?.massWithoutSign ?? 0) <= WALL * largest;
  // Without the stress along its walls a flow's momentum does not close, whatever was computed.
  const momentum = found.openRims === 0 && found.has.pressure && (found.has.shear || !all.some(closedBy));
  // A part that vanishes by symmetry is round-off over round-off: it is held against all that acts at all.
  const momentumReference = all.reduce((sum, p) => sum + size(p.flow?.momentum ?? [0, 0, 0]) + size(p.pressureForce) + size(p.shearForce), 0);
  return {
    from: "surface",
    ...(momentum ? { momentumReference } : {}),
    boundaries: all.map((p): BoundaryFlux => {
      const flow = p.flow as NonNullable<PatchFound["flow"]>;
      const closed = closedBy(p);
      const part = (d: number) => [flow.momentum[d], p.pressureForce[d], p.shearForce[d]] as Vector;
      return {
        name: p.name,
        mass: flow.mass,
        ...(closed ? { closed } : flow.mass > 0 ? { outlet: true, massBack: flow.massBack } : {}),
        ...(momentum ? { momentumX: part(0), momentumY: part(1), momentumZ: part(2) } : {}),
      };
    }),
  };
}
