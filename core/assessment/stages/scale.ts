import type { QuantitySpec } from "../../records/quantity.ts";
import type { Reference, ReferenceValue } from "../../records/reference.ts";
import type { RunEvidence } from "../../records/run.ts";
import type { Setup } from "../../records/setup.ts";
import { convert } from "../../units/units.ts";

export interface Scale {
  readonly value: number;
  /** what it is, where it is not the size of the quantity or of its yardstick */
  readonly name?: string;
}

/** Every value yardsticks give of a quantity, with the yardstick it comes from. */
export function valuesFor(yardsticks: readonly Reference[], key: string): { yardstick: Reference; value: ReferenceValue }[] {
  return yardsticks.flatMap((y) => y.values.filter((v) => v.quantityKey === key).map((value) => ({ yardstick: y, value })));
}

/** Of several yardsticks that hold here, the truest kind with the smallest stated uncertainty; else the first there is. */
export function leading(found: ReturnType<typeof valuesFor>): ReturnType<typeof valuesFor>[number] | undefined {
  const rank = (y: (typeof found)[number]) => (y.yardstick.validity.inside ? 0 : 2) + (y.yardstick.kind === "other-code" ? 1 : 0);
  const doubt = (y: (typeof found)[number]) => y.value.standardUncertainty ?? Number.POSITIVE_INFINITY;
  return [...found].sort((a, b) => rank(a) - rank(b) || (doubt(a) === doubt(b) ? 0 : doubt(a) - doubt(b)))[0];
}

/** Sizes a set-up has by itself, by the unit a quantity is in. */
function ofSetup(unit: string, s: Setup): Scale | undefined {
  const pressure = 0.5 * s.densityKgM3 * s.velocityMS ** 2;
  const sizes: readonly (readonly [string, number, string])[] = [
    ["m/s", s.velocityMS, "the reference velocity"],
    ["Pa", pressure, "the dynamic pressure"],
    ["m", s.lengthM, "the reference length"],
    ["N/m", pressure * s.lengthM, "the dynamic pressure on the reference length"],
    ["N", pressure * s.lengthM ** 2, "the dynamic pressure on the reference length squared"],
    ["kg/s", s.densityKgM3 * s.velocityMS * s.lengthM ** 2, "the mass through the reference length squared"],
    ["1/s", s.velocityMS / s.lengthM, "the reference velocity over length"],
  ];
  if (unit === "" || unit === "1") return { value: 1, name: "one" };
  const found = sizes.find(([u]) => convert(1, unit, u) !== undefined);
  if (!found || !(found[1] > 0)) return undefined;
  const size = convert(found[1], found[0], unit);
  return size === undefined ? undefined : { value: size, name: found[2] };
}

/** share of the set-up's own size below which a reference counts as zero */
const FAR_BELOW = 1e-3;

/**
 * What relative errors of a quantity are counted in: the size of the yardstick that leads, else of the finest result. A reference that is zero or far
 * below the set-up's own size is no scale: then that size is, by its name. Never zero.
 */
export function scaleOf(q: QuantitySpec, yardsticks: readonly Reference[], finest: RunEvidence | undefined, setup: Setup): Scale {
  const reference = leading(valuesFor(yardsticks, q.key))?.value.value;
  const own = finest?.result?.quantities[q.key];
  const size = Math.abs(reference ?? own ?? 0);
  const natural = ofSetup(q.unit, setup);
  if (size > 0 && Number.isFinite(size) && !(natural && natural.name !== "one" && size < FAR_BELOW * natural.value)) return { value: size };
  if (natural && Number.isFinite(natural.value)) return natural;
  const finite = Math.abs(own ?? 0);
  return finite > 0 && Number.isFinite(finite) ? { value: finite, name: "the computed value" } : { value: 1, name: "one" };
}
