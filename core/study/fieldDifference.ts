import { concentrationOf } from "../dataset/places.ts";
import { transfer } from "../dataset/transfer.ts";
import type { TransferWay } from "../dataset/ways.ts";
import { differenceNorms } from "../method/refinement/fieldRefinement.ts";
import type { FieldRung, FieldStudy } from "./fieldStudy.ts";

/**
 * The same field of two runs, of two codes say, on the mesh of one of them, and how far they are apart cell by cell. Nothing is said of which is right:
 * what stands as error is the size of the difference.
 * @param pair the one the other is held against first
 * @param told share done, from 0 to 1; an error thrown there ends the work
 * @throws {RangeError} Values that do not fit their mesh, or meshes that do not cover one another at all.
 */
export function fieldDifference(
  { pair, onto, way }: { readonly pair: readonly [FieldRung, FieldRung]; readonly onto: 0 | 1; readonly way: TransferWay },
  told: (share: number) => void = () => undefined,
): FieldStudy {
  const unfit = pair.find((r) => r.values.length !== r.mesh.cellCount);
  if (unfit) throw new RangeError(`${unfit.label} has ${unfit.values.length} values on ${unfit.mesh.cellCount} cells.`);
  const { mesh } = pair[onto];
  const taken = pair.some((r) => r.mesh.hoopM2) ? "points" : way;
  const other = pair[1 - onto];
  const brought = transfer(other.mesh, other.values, mesh, taken, (s) => told(0.9 * s));
  if (brought.missing === mesh.cellCount)
    throw new RangeError(`${pair[0].label} and ${pair[1].label} lie beside one another: no cell of one covers the other.`);
  const values = onto === 0 ? [pair[0].values, brought.values] : [brought.values, pair[1].values];
  const error = values[0].map((v, i) => Math.abs(values[1][i] - v));
  const where = concentrationOf(mesh, error);
  told(1);
  return {
    onto,
    way: taken,
    values,
    error,
    norms: [differenceNorms(values[0], values[1], mesh.hoopM2 ?? mesh.volumeM2)],
    ...(where ? { where } : {}),
    missing: brought.missing,
    leastCovered: brought.leastCovered,
  };
}
