import { type Concentration, concentrationOf } from "../dataset/places.ts";
import { transfer } from "../dataset/transfer.ts";
import type { TransferWay } from "../dataset/ways.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { type FieldRefinement, refineField } from "../method/refinement/fieldRefinement.ts";

/** One field of a run on its own mesh. */
export interface FieldRung {
  readonly label: string;
  /** representative spacing, m */
  readonly spacing: number;
  readonly mesh: FaceMesh;
  readonly values: Float64Array;
}

export interface FieldStudyInput {
  /** finest first */
  readonly rungs: readonly FieldRung[];
  /** which rung's mesh all are brought to */
  readonly onto: number;
  readonly way: TransferWay;
  readonly formalOrder: number;
}

/** A field of several runs on one mesh, and what it says about the finest. */
export interface FieldStudy extends FieldRefinement {
  readonly onto: number;
  /** the way that was taken: revolved meshes allow points only */
  readonly way: TransferWay;
  /** every rung's values on the common mesh, finest first */
  readonly values: readonly Float64Array[];
  /** where the estimated error of the finest sits */
  readonly where?: Concentration;
  /** cells of the common mesh that a rung leaves without a value */
  readonly missing: number;
  /** least share of a cell that a rung's mesh covers */
  readonly leastCovered: number;
}

/**
 * Brings one field of several runs to a common mesh and judges it cell by cell.
 * @param told share done, from 0 to 1; an error thrown there ends the work
 * @throws {RangeError} Fewer than two rungs, values that do not fit their mesh.
 */
export function fieldStudy(input: FieldStudyInput, told: (share: number) => void = () => undefined): FieldStudy {
  const { rungs, onto, formalOrder } = input;
  const target = rungs[onto]?.mesh;
  if (!target) throw new RangeError(`There is no rung ${onto + 1} to bring the others to.`);
  const unfit = rungs.find((r) => r.values.length !== r.mesh.cellCount);
  if (unfit) throw new RangeError(`${unfit.label} has ${unfit.values.length} values on ${unfit.mesh.cellCount} cells.`);
  const way = rungs.some((r) => r.mesh.hoopM2) ? "points" : input.way;
  const brought = rungs.map((r, k) =>
    k === onto
      ? { values: r.values, leastCovered: 1, missing: 0 }
      : transfer(r.mesh, r.values, target, way, (s) => told((0.8 * (k + s)) / rungs.length)),
  );
  const values = brought.map((b) => b.values);
  told(0.8);
  const refined = refineField({ values, spacing: rungs.map((r) => r.spacing), formalOrder, area: target.hoopM2 ?? target.volumeM2 });
  told(0.9);
  const where = concentrationOf(target, refined.error);
  told(1);
  return {
    ...refined,
    onto,
    way,
    values,
    ...(where ? { where } : {}),
    missing: Math.max(...brought.map((b) => b.missing)),
    leastCovered: Math.min(...brought.map((b) => b.leastCovered)),
  };
}
