import { z } from "zod";
import { MOST_BYTES } from "../../core/formats/delimited.ts";
import { CURVE_ROLES, curveKey, type ReadCurve, type UncertaintyRule } from "../../core/intake/curveImport.ts";
import type { RunSettings } from "../../core/problems/describe/runSettings.ts";
import { CONDITION_NAMES, CONDITION_UNITS } from "../../core/records/conditions.ts";
import type { Profile } from "../../core/records/profile.ts";
import type { Reference, ReferenceProfile, StatedCondition } from "../../core/records/reference.ts";
import { parseQuantity } from "../../core/units/units.ts";
import type { Store } from "../db/store.ts";
import type { CurvesFound } from "../desk/curveTasks.ts";
import { desk } from "../desk/desk.ts";
import { hashOf } from "../hash.ts";
import { dropReading } from "../jobs/readings.ts";
import { findCase, findYardstick, insertYardstick, updateYardstick } from "../repositories/cases.ts";
import { findRun, updateRun } from "../repositories/runs.ts";
import { type Source, sourceOf } from "./confirmedFiles.ts";
import { UseCaseError } from "./failure.ts";
import { Reader, typed } from "./reader.ts";

/** A text that came along, or a file that was read before: a workbook, or one too large to be sent whole. */
const CurveFile = z.union([
  z.object({ name: z.string().max(200), text: z.string().max(MOST_BYTES, "The file is larger than 16 MB.") }),
  z.object({ reading: z.uuid() }),
]);

/** What the columns of a table of curves are, and how uncertain its figures. */
const MappingInput = z.object({
  roles: z.array(z.enum(CURVE_ROLES)).max(400),
  units: z.array(z.string().max(60).nullable()).max(400),
  /** "95 %" or "standard" */
  coverage: z.union([z.literal(1), z.literal(2)]).default(2),
  /** "2 %", "0.05 m/s" or both with a plus between them */
  own: typed.default(""),
  shared: typed.default(""),
  place: typed.default(""),
});

export const CurvesInput = z.object({ file: CurveFile, mapping: MappingInput.optional() });

const CONDITIONS = Object.keys(CONDITION_NAMES) as StatedCondition["like"][];

/** What is said of every yardstick besides its figures. */
export const YardstickWords = z.object({
  name: z.string().trim().min(1, "Name the yardstick.").max(120),
  kind: z.enum(["measured", "table", "other-code"]),
  source: z.string().trim().min(1, "Say where it comes from: without a source it is no truth.").max(400),
  validity: z.string().trim().max(400).default(""),
  who: z.string().trim().max(80).default(""),
  how: z.string().trim().max(400).default(""),
  when: z.string().trim().max(40).default(""),
  /** conditions it was made at, as typed */
  conditions: z.partialRecord(z.enum(CONDITIONS as [StatedCondition["like"], ...StatedCondition["like"][]]), typed).default({}),
});

export type YardstickWords = z.infer<typeof YardstickWords>;

export const BringCurvesInput = YardstickWords.extend({
  file: CurveFile,
  mapping: MappingInput,
  /** places outside are not compared, in the unit of the abscissa */
  windowFrom: typed.default(""),
  windowTo: typed.default(""),
  /** which curve of the case each curve of the file stands beside; by its own name where none is given */
  targets: z.record(z.string().max(200), z.string().max(80)).default({}),
  /** proposals that are believed after all, by the name of the curve: everything else that was proposed is marked as doubtful */
  believed: z.record(z.string().max(200), z.array(z.number().int().min(0)).max(1000)).default({}),
});

export const AddCurvesInput = z.object({
  file: CurveFile,
  mapping: MappingInput,
  targets: z.record(z.string().max(200), z.string().max(80)).default({}),
  replace: z.boolean().default(false),
});

/** An uncertainty as typed: a share, a figure in the unit, or both. */
function ruleOf(field: string, text: string, unit: string, reader: Reader): UncertaintyRule | undefined {
  if (text.trim() === "") return undefined;
  let [absolute, relative] = [0, 0];
  for (const part of text.split("+")) {
    const pure = unit === "" || unit === "1";
    const share = part.trim().endsWith("%");
    const read = parseQuantity(part, share || pure ? "" : unit);
    if (!read.ok) reader.mistakes[field] = `${read.sentence} Write it as "2 %", "0.05 ${unit}" or both with a plus between.`;
    else if (!(read.si >= 0)) reader.mistakes[field] = "An uncertainty cannot be negative.";
    else if (share) relative += read.si;
    else absolute += read.si;
  }
  return { absolute, relative };
}

type Mapping = z.infer<typeof MappingInput>;

/** A mapping as the core reads it. @throws {UseCaseError} naming the uncertainty that cannot be read */
function mappingOf(m: Mapping) {
  const reader = new Reader();
  const unitOf = (role: string) => m.units[m.roles.indexOf(role as Mapping["roles"][number])] ?? "1";
  const own = ruleOf("own", m.own, unitOf("value"), reader);
  const shared = ruleOf("shared", m.shared, unitOf("value"), reader);
  const place = ruleOf("place", m.place, unitOf("abscissa"), reader);
  if (place?.relative) reader.mistakes.place = "Give the uncertainty of the place as a length or figure, not as a share.";
  reader.done();
  const { roles, units, coverage } = m;
  return { roles, units, coverage, ...(own ? { own } : {}), ...(shared ? { shared } : {}), ...(place ? { place: place.absolute } : {}) };
}

/** What a table of curves holds. Stores nothing. */
export async function previewCurves(input: z.infer<typeof CurvesInput>, signal?: AbortSignal): Promise<CurvesFound> {
  const { mapping } = input;
  return desk().ask("readCurveFile", { file: sourceOf(input.file), ...(mapping ? { mapping: mappingOf(mapping) } : {}) }, { signal });
}

/** The curves of a file. @throws {UseCaseError} with the first line that cannot be used */
async function curvesOf(file: Source, mapping: Mapping): Promise<CurvesFound> {
  const found = await desk().ask("readCurveFile", { file, mapping: mappingOf(mapping) });
  const [first] = found.problems;
  if (first)
    throw new UseCaseError(
      "invalid",
      `${file.name}, line ${first.line}${first.column ? `, column "${first.column}"` : ""}: ${first.sentence} Nothing was stored.`,
      found.problems.map((p) => ({ ...p, file: file.name })),
    );
  return found;
}

/** Where the uncertainties of a curve come from: a column goes before what was typed, and what neither says comes from repeats. */
function noteOf(c: ReadCurve, m: Mapping): string {
  const typedOwn = m.own.trim();
  const own = m.roles.includes("uncertainty") ? `by column${typedOwn ? `, ${typedOwn} where there is none` : ""}` : typedOwn || "from its repeats";
  const parts = [
    c.own ? `each point's own ${own}` : "",
    c.shared ? `shared by all ${m.shared.trim()}` : "",
    c.place ? `of the place ${m.roles.includes("place-uncertainty") ? "by column" : m.place.trim()}` : "",
  ].filter(Boolean);
  return parts.length ? `${parts.join(", ")}; as ${m.coverage === 2 ? "95 %" : "standard"} figures` : "none stated";
}

function profileOf(c: ReadCurve, input: z.infer<typeof BringCurvesInput>, window: ReferenceProfile["window"]): ReferenceProfile {
  const believed = input.believed[c.name] ?? [];
  const doubtful = c.proposals.filter((p) => !believed.includes(p.index));
  return {
    profileKey: input.targets[c.name] || curveKey(c.name),
    axes: c.axes,
    abscissa: c.abscissa,
    value: c.value,
    ...(c.own ? { standardUncertainty: c.own } : {}),
    ...(c.shared ? { systematicUncertainty: c.shared } : {}),
    ...(c.place ? { abscissaUncertainty: c.place } : {}),
    uncertaintyNote: noteOf(c, input.mapping),
    ...(window ? { window } : {}),
    ...(c.repeats ? { changes: [`${c.repeats} repeated readings were averaged with those at the same place.`] } : {}),
    ...(doubtful.length ? { doubtful } : {}),
  };
}

/** Conditions as typed, SI; what cannot be read is a mistake under its own name. */
export function typedConditions(reader: Reader, typed: YardstickWords["conditions"]): StatedCondition[] {
  return CONDITIONS.flatMap((like) => {
    const field = `condition-${like}`;
    const value = reader.optional(field, typed[like] ?? "", CONDITION_UNITS[like]);
    if (value === 0) reader.mistakes[field] = "It cannot be zero.";
    return value === undefined ? [] : [{ like, value }];
  });
}

/** A yardstick of curves with what a person said of it. */
export function curvesYardstick(words: YardstickWords, conditions: readonly StatedCondition[], profiles: readonly ReferenceProfile[]): Reference {
  const { name, kind, source, validity, who, how, when } = words;
  return {
    key: "curves",
    name,
    kind,
    source,
    validity: { sentence: validity || "No range of validity was stated.", inside: true },
    values: [],
    profiles,
    ...(conditions.length ? { conditions } : {}),
    provenance: { ...(who ? { who } : {}), ...(how ? { how } : {}), ...(when ? { when } : {}) },
  };
}

/** Curves of a file as a yardstick, with its provenance: the file is kept under its hash. */
export async function bringCurves(opened: Store, caseId: string, input: z.infer<typeof BringCurvesInput>): Promise<void> {
  if (!(await findCase(opened.db, caseId))) throw new UseCaseError("not-found", "There is no such case.");
  const reader = new Reader();
  const conditions = typedConditions(reader, input.conditions);
  const file = sourceOf(input.file);
  const found = await curvesOf(file, input.mapping);
  const { unit } = found.curves[0].axes.abscissa;
  const [from, to] = [reader.optional("windowFrom", input.windowFrom, unit), reader.optional("windowTo", input.windowTo, unit)];
  if (from !== undefined && to !== undefined && !(to > from)) reader.mistakes.windowTo = "The window must end behind its beginning.";
  reader.done();
  const most = Number.MAX_VALUE;
  const window = from === undefined && to === undefined ? undefined : ([from ?? -most, to ?? most] as const);
  const hash = await hashOfFile(opened, file);
  const profiles = found.curves.map((c) => profileOf(c, input, window));
  const yardstick = curvesYardstick(input, conditions, profiles);
  await insertYardstick(opened.db, caseId, { ...yardstick, provenance: { ...yardstick.provenance, file: { name: file.name, hash } } });
  if ("reading" in input.file) dropReading(input.file.reading);
}

/** The blob of a file: there is one already where it was uploaded. */
const hashOfFile = async (opened: Store, file: Source): Promise<string> =>
  "hash" in file ? file.hash : opened.blobs.put(new TextEncoder().encode(file.text));

/** A run's curves with more of them. @throws {UseCaseError} it has some of them already, and they are not to be replaced */
export function withCurves(label: string, profiles: readonly Profile[], curves: readonly Profile[], replace: boolean): Profile[] {
  const twice = profiles.filter((p) => curves.some((c) => c.key === p.key));
  if (twice.length && !replace)
    throw new UseCaseError(
      "conflict",
      `${label} has ${twice.map((p) => p.name).join(", ")} already. Nothing was changed; say that it is to be replaced.`,
      { replace: "curves" },
    );
  return [...profiles.filter((p) => !twice.includes(p)), ...curves];
}

/** Curves of a file as curves of a brought-in run; what it has already is replaced only when asked. */
export async function addCurves(opened: Store, runId: string, input: z.infer<typeof AddCurvesInput>): Promise<void> {
  const run = await findRun(opened.db, runId);
  if (!run) throw new UseCaseError("not-found", "There is no such run.");
  if (run.origin !== "brought-in" || !run.result) throw new UseCaseError("conflict", "Only a finished run that was brought in can be added to.");
  const file = sourceOf(input.file);
  const found = await curvesOf(file, input.mapping);
  const curves = found.curves.map((c): Profile => {
    const { abscissa, value } = c.axes;
    return {
      key: input.targets[c.name] || curveKey(c.name),
      name: c.name,
      abscissa: { ...abscissa, values: c.abscissa },
      value: { ...value, values: c.value },
    };
  });
  const profiles = withCurves(run.label, run.result.profiles, curves, input.replace);
  const hash = await hashOfFile(opened, file);
  const settings: RunSettings = { ...run.settings, files: [...(run.settings.files ?? []), { name: file.name, hash }] };
  await updateRun(opened.db, runId, { result: { ...run.result, profiles }, settings, settingsHash: hashOf(settings) });
}

export const DoubtInput = z.object({
  profileKey: z.string().max(80),
  index: z.number().int().min(0),
  /** empty: it is believed again */
  reason: z.string().trim().max(200),
});

/** Marks a point of a yardstick as doubtful, with the reason, or takes that back: it stays in the picture either way. */
export async function doubtPoint(opened: Store, id: string, { profileKey, index, reason }: z.infer<typeof DoubtInput>): Promise<void> {
  const row = await findYardstick(opened.db, id);
  const profile = row?.data.profiles.find((p) => p.profileKey === profileKey);
  if (!row || !profile || index >= profile.abscissa.length) throw new UseCaseError("not-found", "There is no such point.");
  const others = (profile.doubtful ?? []).filter((d) => d.index !== index);
  const doubtful = reason ? [...others, { index, reason }].sort((a, b) => a.index - b.index) : others;
  const profiles = row.data.profiles.map((p) => (p === profile ? { ...p, doubtful } : p));
  await updateYardstick(opened.db, id, { ...row.data, profiles });
}
