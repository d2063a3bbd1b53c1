import { type PatchForces, sum } from "../../dataset/surfaceForces.ts";
import { dot, plus, size, type Vector } from "../../dataset/vector.ts";
import { percent, significant } from "../../formatting/number.ts";
import type { ForceLink, SurfaceRecord } from "../../records/surfaces.ts";
import { type Remark, type State, stateOf } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";

/** A reported quantity beside what the surface gives for it. */
export interface ForceLine {
  readonly quantityKey: string;
  readonly name: string;
  readonly unit: string;
  readonly reported: number;
  readonly integrated: number;
  /** of it by pressure and by shear */
  readonly byPressure: number;
  readonly byShear: number;
  /** size of the whole force or moment on these patches, in the quantity's unit */
  readonly whole: number;
  /** difference over the whole */
  readonly relative: number;
  /** difference over the quantity itself, where it is more than a twentieth of the whole */
  readonly own?: number;
  readonly limit: number;
  readonly state: State;
}

export interface SurfaceAssessment {
  readonly file: string;
  readonly lines: readonly ForceLine[];
  readonly remarks: readonly Remark[];
  readonly state: State;
}

/** what is let pass of the whole force, and from where on it is a stop */
const FORCE_LIMIT = 0.005;
const FORCE_STOP = 0.05;
/** a component smaller than this share of the whole has no percentage of its own */
const OWN_SHARE = 0.05;
/** what a closed surface's area vectors leave, over its area */
const CLOSED = 1e-10;

const NONE: Vector = [0, 0, 0];

/** Force or moment of the patches a link names, before its factor: by pressure, by shear. */
function acting(
  { found }: SurfaceRecord,
  link: ForceLink,
): { readonly pressure: Vector; readonly shear: Vector; readonly area: PatchForces | undefined } {
  const all: PatchForces[] = link.patches.length
    ? found.patches.filter((p) => link.patches.includes(p.name))
    : [...found.patches, ...(found.unnamed ? [found.unnamed] : [])];
  const total = all.length ? all.reduce(sum) : undefined;
  const pressure = (link.of === "force" ? total?.pressureForce : total?.pressureMoment) ?? NONE;
  const shear = (link.of === "force" ? total?.shearForce : total?.shearMoment) ?? NONE;
  return { pressure, shear, area: total };
}

/** What one N or N m is in the quantity's unit. */
function perUnit({ of, factor, coefficient: c }: ForceLink): number {
  if (!c) return factor;
  return factor / (0.5 * c.densityKgM3 * c.speedMS ** 2 * c.areaM2 * (of === "moment" ? c.lengthM : 1));
}

/**
 * Forces integrated from a surface against those the code reported.
 * @param quantities by key, with their names and units
 * @param reported values of the run
 * @source method, section 4
 */
export function assessSurface(
  label: string,
  record: SurfaceRecord,
  quantities: Readonly<Record<string, { readonly name: string; readonly unit: string }>>,
  reported: Readonly<Record<string, number>>,
): SurfaceAssessment {
  const remarks: Remark[] = [];
  const lines = record.said.links.flatMap((link): ForceLine[] => {
    const quantity = quantities[link.quantityKey];
    const value = reported[link.quantityKey];
    const missing = link.patches.filter((p) => !record.found.patches.some((x) => x.name === p));
    if (missing.length)
      remarks.push({
        rule: "surface-force",
        severity: "doubt",
        sentence: `${label}: ${quantity?.name ?? link.quantityKey} is said to act on ${missing.map((m) => `"${m}"`).join(", ")}, which the surface does not have.`,
      });
    if (!quantity || value === undefined || missing.length) return [];
    const line = lineOf(record, link, quantity, value);
    remarks.push(...remarksOn(label, record, link, line));
    return [line];
  });
  // What the surface is like stands after what it does to the forces.
  remarks.push(...faultsOf(label, record));
  return {
    file: record.file.name,
    lines,
    remarks,
    state: lines.length ? stateOf(remarks) : remarks.some((r) => r.severity !== "note") ? stateOf(remarks) : "none",
  };
}

function lineOf(record: SurfaceRecord, link: ForceLink, quantity: { readonly name: string; readonly unit: string }, reported: number): ForceLine {
  const { pressure, shear } = acting(record, link);
  const by = perUnit(link);
  const along = (v: Vector) => (dot(v, link.direction) / size(link.direction)) * by;
  const [byPressure, byShear] = [along(pressure), along(shear)];
  const integrated = byPressure + byShear;
  const whole = size(plus(pressure, shear)) * Math.abs(by);
  const difference = Math.abs(integrated - reported);
  // Of a force that is nothing at all, what was reported is the scale.
  const relative = difference === 0 ? 0 : difference / (whole > 0 ? whole : Math.abs(reported));
  const state: State = relative > FORCE_STOP ? "fails" : relative > FORCE_LIMIT ? "remark" : "holds";
  return {
    quantityKey: link.quantityKey,
    ...quantity,
    reported,
    integrated,
    byPressure,
    byShear,
    whole,
    relative,
    ...(Math.abs(integrated) > OWN_SHARE * whole ? { own: difference / Math.abs(integrated) } : {}),
    limit: FORCE_LIMIT,
    state,
  };
}

function remarksOn(label: string, record: SurfaceRecord, link: ForceLink, line: ForceLine): Remark[] {
  if (line.state === "holds") return [];
  const severity = line.state === "fails" ? "stop" : "doubt";
  const sentence = `${label}: ${line.name} integrated from ${record.file.name} is ${significant(line.integrated, 4)}, reported ${significant(line.reported, 4)} ${line.unit}: apart by ${percent(line.relative)} of the whole, ${percent(line.limit)} is let pass.${hintOn(record, link, line)}`;
  return [{ rule: "surface-force", severity, sentence }];
}

/** What would explain a difference, where one simple thing does. */
function hintOn(record: SurfaceRecord, link: ForceLink, { reported, integrated, byPressure, byShear, whole }: ForceLine): string {
  const near = (value: number) => Math.abs(value - reported) <= FORCE_LIMIT * whole;
  const { area } = acting(record, link);
  if (near(-integrated)) return " With the other sign it agrees: see which way the normals point, and whose force was reported.";
  if (near(2 * integrated)) return " Twice it agrees: a half model, counted as a whole by one of the two.";
  if (near(integrated / 2)) return " Half of it agrees: a half model, counted as a whole by one of the two.";
  if (near(byPressure - byShear)) return " With the shear turned round it agrees: the stress is that of the wall on the fluid.";
  if (byShear !== 0 && near(byPressure)) return " What was reported is the pressure's part alone.";
  if (record.found.has.pressure && !record.found.has.shear) return " The file has no stress along the wall: what is missing may be that.";
  const unnamed = record.found.unnamed;
  if (unnamed && link.patches.length) {
    const all = lineOf(record, { ...link, patches: [] }, { name: "", unit: "" }, reported);
    if (all.state === "holds") return " With the pieces that have no name it agrees: one of them was forgotten.";
  }
  if (area && size(area.areaVector) > CLOSED * area.area) {
    const level = (dot(area.areaVector, link.direction) / size(link.direction)) * perUnit(link);
    const needed = (reported - integrated) / level;
    if (Number.isFinite(needed))
      return ` These patches are open by ${percent(size(area.areaVector) / area.area)} of their area: a reference pressure of ${significant(record.said.referencePa + needed, 5)} Pa would explain it.`;
  }
  return "";
}

const place = (v: Vector): string => v.map((x) => significant(x, 3)).join(", ");

/** What is wrong with the surface itself. */
function faultsOf(label: string, { file, found }: SurfaceRecord): Remark[] {
  const out: Remark[] = [];
  const say = (rule: string, severity: Remark["severity"], sentence: string) =>
    out.push({ rule, severity, sentence: `${label}: ${file.name} ${sentence}` });
  const { turned, unnamed, rims } = found;
  if (turned.faces)
    say(
      "surface-turned",
      "doubt",
      `has ${turned.faces} faces (${percent(turned.areaM2 / found.areaM2)} of its area, the first at ${place(turned.at as Vector)} m) that go round against their neighbours; their forces count as their neighbours' do.`,
    );
  if (rims.length)
    say(
      "surface-open",
      "note",
      `is open along ${found.openRims === 1 ? `a rim of ${significant(found.openM, 3)} m` : `${found.openRims} rims of ${significant(found.openM, 3)} m in all, the longest`} at ${place(rims[0].at)} m: what a pressure level makes of a force hangs on what closes it.`,
    );
  if (found.twice) say("surface-twice", "doubt", `has ${found.twice} faces twice; they count twice.`);
  if (found.crowded)
    say("surface-twice", "doubt", `has ${found.crowded} edges at which three faces or more meet: walls inside, or pieces laid over one another.`);
  if (found.oneSided)
    say("surface-turned", "stop", `has one side only: at ${found.oneSided} edges no choice of turning its faces agrees, so it has no outside.`);
  if (unnamed)
    say(
      "surface-unnamed",
      found.patches.length ? "doubt" : "note",
      `has ${unnamed.pieces} ${unnamed.pieces === 1 ? "piece" : "pieces"} without a name, ${percent(unnamed.area / found.areaM2)} of its area.`,
    );
  return out;
}

/** The rules of this file in words. */
export const SURFACE_RULES = rulesOf("core/method/balance/surfaceForces.ts", [
  {
    rule: "surface-force",
    text: "Pressure and shear integrated over named patches against the force the code reported, over the size of the whole force: 0.5 % is let pass, 5 % is a stop. A component has a percentage of its own only where it is more than 5 % of the whole.",
    source: "method, section 4",
  },
  {
    rule: "surface-turned",
    text: "Faces that go round against most of the surface they hang together with. They count as their neighbours do, and it is said.",
    source: "geometry",
  },
  {
    rule: "surface-open",
    text: "Open edges. The area vectors of a closed surface vanish to 1e-10 of its area; of an open one the force hangs on the pressure that is taken off.",
    source: "divergence theorem",
  },
  { rule: "surface-twice", text: "Faces with the same corners, and edges with more than two faces.", source: "geometry" },
  { rule: "surface-unnamed", text: "Pieces of the surface that no name was given to, beside others that have one.", source: "completeness" },
]);
