import { z } from "zod";
import type { AxisTurn, CurveAxes, ReferenceProfile } from "../../core/records/reference.ts";
import { parseQuantity } from "../../core/units/units.ts";
import type { Store } from "../db/store.ts";
import { findYardstick, updateYardstick } from "../repositories/cases.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";
import { Reader, typed } from "./reader.ts";

const Axis = z.object({
  /** what the figures are multiplied by, as typed; with a unit where they are pure numbers */
  times: typed.default(""),
  /** what is added then */
  plus: typed.default(""),
  otherSign: z.boolean().default(false),
});

export const TurnInput = z.object({
  profileKey: z.string().max(80),
  /** degrees between the line the places are counted along and the normal of the wall */
  inclined: typed.default(""),
  abscissa: Axis,
  value: Axis,
});

type Turn = z.infer<typeof TurnInput>;

/** States how the figures of a curve are turned before they are compared, or takes that back where nothing is typed; the figures themselves stay. */
export async function turnCurve(opened: Store, id: string, input: Turn): Promise<void> {
  const row = await findYardstick(opened.db, id);
  const profile = row?.data.profiles.find((p) => p.profileKey === input.profileKey);
  if (!row || !profile) throw new UseCaseError("not-found", "There is no such curve.");
  if (!profile.axes || row.data.made) throw new UseCaseError("conflict", "Only curves that were brought in or read off a figure can be turned.");
  const own = await unitsOf(opened, row.caseId, profile.profileKey);
  const reader = new Reader();
  const abscissa = turnOf(reader, "abscissa", input.abscissa, profile.axes.abscissa.unit, own?.abscissa.unit, input.inclined);
  const value = turnOf(reader, "value", input.value, profile.axes.value.unit, own?.value.unit);
  reader.done();
  const { turned: _before, ...rest } = profile;
  const next: ReferenceProfile = {
    ...rest,
    ...(abscissa || value ? { turned: { ...(abscissa ? { abscissa } : {}), ...(value ? { value } : {}) } } : {}),
  };
  await updateYardstick(opened.db, id, { ...row.data, profiles: row.data.profiles.map((p) => (p === profile ? next : p)) });
}

/** Units of the case's own curve of this name, where a run has delivered it. */
async function unitsOf(opened: Store, caseId: string, key: string): Promise<Pick<CurveAxes, "abscissa" | "value"> | undefined> {
  const { evidence } = await openCase(opened, caseId);
  return evidence.runs.flatMap((r) => r.result?.profiles ?? []).find((p) => p.key === key);
}

const isPure = (unit: string) => unit === "" || unit === "1";

/** Factor and shift of an axis. Pure numbers may be multiplied by a figure with a unit; others by pure numbers alone. */
function turnOf(
  reader: Reader,
  axis: "abscissa" | "value",
  { times, plus, otherSign }: Turn["abscissa"],
  unit: string,
  target: string | undefined,
  inclined = "",
): AxisTurn | undefined {
  const said: string[] = [];
  let factor = 1;
  let counted = unit;
  if (times.trim()) {
    const withUnit = isPure(unit) && target !== undefined && !isPure(target) && !parseQuantity(times, "").ok;
    if (withUnit) counted = target;
    factor = reader.required(`${axis}-times`, times, withUnit ? target : "");
    if (factor === 0) reader.mistakes[`${axis}-times`] = "Nothing would be left of it.";
    said.push(`times ${times.trim()}`);
  }
  if (inclined.trim()) {
    const angle = reader.required("inclined", inclined.replace(/\s*(°|deg|degrees)$/, ""), "", -89, 89);
    factor *= Math.cos((angle * Math.PI) / 180);
    said.push(`distance from the wall of a line inclined by ${angle}° to its normal`);
  }
  if (otherSign) {
    factor = -factor;
    said.push("with the other sign");
  }
  const shift = plus.trim() ? reader.required(`${axis}-plus`, plus, isPure(counted) ? "" : counted) : 0;
  if (plus.trim()) said.push(`plus ${plus.trim()}`);
  const entries = { times, plus, otherSign, ...(inclined.trim() ? { inclined } : {}) };
  return said.length ? { factor, shift, unit: counted, words: said.join(", "), entries } : undefined;
}
