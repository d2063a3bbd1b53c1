import type { Plane } from "@/core/dataset/cutGrid";
import type { Vector } from "@/core/dataset/vector";
import type { SceneAsked } from "@/core/drawing/sceneAsked";
import type { ArrayKey, ShownArray, VolumeLook } from "@/core/drawing/volume";
import { typedNumber } from "../../forms/typedNumber";

/** A field to be chosen from: as it is named in a list. */
export interface FieldChoice {
  readonly key: string;
  readonly words: string;
  readonly array: ArrayKey;
  readonly component: number | "size";
  readonly unit: string;
  readonly low: number;
  readonly high: number;
}

export interface PlaneEntry {
  /** an axis it stands across, or by a direction of its own */
  readonly across: "0" | "1" | "2" | "askew";
  /** direction across it, where it lies askew */
  readonly normal: string;
  /** where it is along that direction, from the origin */
  readonly at: string;
}

/** Everything a person says about what is to be seen, as it is typed. */
export interface LookEntries {
  readonly colour: string;
  readonly smooth: boolean;
  readonly range: "seen" | "whole" | "typed";
  readonly low: string;
  readonly high: string;
  readonly outside: "whole" | "outline";
  /** field only some of whose values are kept, "" for all, and which */
  readonly keep: string;
  readonly least: string;
  readonly most: string;
  readonly planes: readonly PlaneEntry[];
  /** number of the plane above which all is cut away, or "" */
  readonly clip: string;
  readonly level: string;
  readonly value: string;
  /** velocity lines follow, "" for none */
  readonly lines: string;
  readonly from: "point" | "line" | "cut";
  readonly begin: string;
  readonly end: string;
  readonly count: string;
  readonly sense: "with" | "against" | "both";
  readonly arrows: string;
  readonly equal: string;
  /** axis a half model is mirrored across, "" for none, and where */
  readonly mirror: "" | "0" | "1" | "2";
  readonly mirrorAt: string;
}

export const FIRST_ENTRIES: LookEntries = {
  colour: "",
  smooth: false,
  range: "seen",
  low: "",
  high: "",
  outside: "whole",
  keep: "",
  least: "",
  most: "",
  planes: [],
  clip: "",
  level: "",
  value: "",
  lines: "",
  from: "cut",
  begin: "",
  end: "",
  count: "24",
  sense: "both",
  arrows: "",
  equal: "0",
  mirror: "",
  mirrorAt: "0",
};

const plain = (name: string): string => name.replace(/\s*[,([][^,([]*$/, "").trim() || name;

/** What can be shown of the fields there are: of a vector its size and its components. */
export function fieldChoices(arrays: readonly ShownArray[]): FieldChoice[] {
  return arrays.flatMap(({ name, on, components, unit, low, high }): FieldChoice[] => {
    const array = { name, on };
    const one = (component: number | "size", words: string): FieldChoice => ({
      key: `${on} ${component} ${name}`,
      words: `${words}${on === "points" ? "" : " (cells)"}`,
      array,
      component,
      unit,
      low,
      high,
    });
    if (components === 1) return [one(0, plain(name))];
    return [
      one("size", `${plain(name)}, size`),
      ...Array.from({ length: Math.min(components, 9) }, (_, d) => one(d, `${plain(name)}, ${"xyz"[d] ?? d + 1}`)),
    ];
  });
}

/** Vectors lines and arrows can follow. */
export const vectorChoices = (arrays: readonly ShownArray[]): FieldChoice[] =>
  fieldChoices(arrays.filter((a) => a.components === 3)).filter((c) => c.component === "size");

/** Three numbers, with commas or blanks between them. */
export function typedPlace(text: string): Vector | undefined {
  const parts = text.trim().split(/\s*[,;]\s*|\s+/);
  const found = parts.map(typedNumber);
  return found.length === 3 && found.every(Number.isFinite) ? (found as unknown as Vector) : undefined;
}

/** A line as it is typed: its ends, and corners between them with semicolons in between; nothing where one of them is no place. */
export function cornersOf({ from, to, by }: Readonly<Record<"from" | "to" | "by", string>>): Vector[] | undefined {
  const texts = [from, ...by.split(";").filter((t) => t.trim()), to];
  const found = texts.map(typedPlace);
  return found.every((p) => p !== undefined) ? found : undefined;
}

/** An entry that cannot be used, by what it belongs to. */
export type LookMistakes = Readonly<
  Partial<Record<"low" | "high" | "least" | "most" | "value" | "mirrorAt" | "begin" | "end" | "count" | "equal" | `plane ${number}`, string>>
>;

const AXES: Readonly<Record<"0" | "1" | "2", Vector>> = { 0: [1, 0, 0], 1: [0, 1, 0], 2: [0, 0, 1] };

/** Direction across a plane, of length 1; nothing where it is none. */
export function normalOf({ across, normal }: PlaneEntry): Vector | undefined {
  if (across !== "askew") return AXES[across];
  const typed = typedPlace(normal);
  const length = typed ? Math.hypot(...typed) : 0;
  return typed && length > 0 ? (typed.map((v) => v / length) as unknown as Vector) : undefined;
}

/** From where to where a plane can be swept so that it meets the room. */
export function reachOf(plane: PlaneEntry, { low, high }: Pick<VolumeLook, "low" | "high">): readonly [number, number] {
  const n = normalOf(plane) ?? [0, 0, 1];
  const ends = n.map((c, d) => [c * low[d], c * high[d]] as const);
  return [ends.reduce((s, [a, b]) => s + Math.min(a, b), 0), ends.reduce((s, [a, b]) => s + Math.max(a, b), 0)];
}

function planeOf(entry: PlaneEntry): Plane | string {
  const n = normalOf(entry);
  if (!n) return `"${entry.normal}" is no direction: three numbers such as 1, 1, 0.`;
  const at = typedNumber(entry.at);
  if (!Number.isFinite(at)) return `"${entry.at}" is not a number.`;
  // The digits that were typed, where they say a place along an axis.
  const through = entry.across === "askew" ? n.map((c) => c * at) : n.map((c) => (c === 1 ? at : 0));
  const normal = entry.across === "askew" ? (typedPlace(entry.normal) as Vector) : n;
  return { normal, through: through as unknown as Vector };
}

/** A number in four digits that does not leave out what it is the end of. */
export function roundedOut(v: number, up: boolean): string {
  if (v === 0 || !Number.isFinite(v)) return String(v);
  const step = 10 ** (Math.floor(Math.log10(Math.abs(v))) - 3);
  return String(Number(((up ? Math.ceil(v / step) : Math.floor(v / step)) * step).toPrecision(4)));
}

/** A new plane, in the middle across the shortest way. */
export function middlePlane({ low, high }: Pick<VolumeLook, "low" | "high">): PlaneEntry {
  const shortest = [0, 1, 2].reduce((a, b) => (high[b] - low[b] < high[a] - low[a] ? b : a));
  return {
    across: String(shortest) as PlaneEntry["across"],
    normal: "1, 1, 0",
    at: String(Number(((low[shortest] + high[shortest]) / 2).toPrecision(4))),
  };
}

/** What was typed as a scene to be asked for, and what of it cannot be used; that is left out. */
export function sceneOf(e: LookEntries, choices: readonly FieldChoice[]): { readonly asked: SceneAsked; readonly mistakes: LookMistakes } {
  const mistakes: Record<string, string> = {};
  const chosen = (key: string) => choices.find((c) => c.key === key);
  const number = (key: "low" | "high" | "least" | "most" | "value" | "mirrorAt" | "equal" | "count", text: string): number => {
    const v = typedNumber(text);
    if (!Number.isFinite(v)) mistakes[key] = `"${text}" is not a number.`;
    return v;
  };
  const place = (key: "begin" | "end", text: string): Vector | undefined => {
    const found = typedPlace(text);
    if (!found) mistakes[key] = `"${text}" is no place: three numbers, such as 0.1, 0, 2.`;
    return found;
  };
  const planes = e.planes.map(planeOf);
  planes.forEach((p, k) => {
    if (typeof p === "string") mistakes[`plane ${k}`] = p;
  });
  const good = planes.flatMap((p, k) => (typeof p === "string" ? [] : [{ p, k }]));
  const clip = good.findIndex(({ k }) => String(k) === e.clip);
  const colour = chosen(e.colour);
  let range: SceneAsked["range"] = e.range === "whole" ? "whole" : "seen";
  if (e.range === "typed") {
    const [low, high] = [number("low", e.low), number("high", e.high)];
    if (low < high) range = [low, high];
    else if (!mistakes.low && !mistakes.high) mistakes.high = "The upper end lies above the lower one.";
  }
  const only = chosen(e.keep);
  const [least, most] = only ? [number("least", e.least), number("most", e.most)] : [Number.NaN, Number.NaN];
  const level = chosen(e.level);
  const value = level ? number("value", e.value) : Number.NaN;
  const lines = seedsOf(e, chosen(e.lines), place, number, good.length);
  const mirrorAt = e.mirror ? number("mirrorAt", e.mirrorAt) : Number.NaN;
  const equal = e.equal.trim() === "" ? 0 : number("equal", e.equal);
  const asked: SceneAsked = {
    ...(colour ? { colour: { ...colour.array, component: colour.component } } : {}),
    smooth: e.smooth,
    range,
    outside: e.outside,
    ...(only && Number.isFinite(least) && Number.isFinite(most)
      ? { keep: { ...only.array, component: only.component, low: least, high: most } }
      : {}),
    planes: good.map(({ p }) => p),
    ...(clip >= 0 ? { clip } : {}),
    ...(level && Number.isFinite(value) ? { level: { ...level.array, component: level.component, value } } : {}),
    ...(lines ? { lines } : {}),
    ...(chosen(e.arrows) ? { arrows: chosen(e.arrows)?.array } : {}),
    ...(e.mirror && Number.isFinite(mirrorAt) ? { mirror: { axis: Number(e.mirror) as 0 | 1 | 2, at: mirrorAt } } : {}),
    equal: Number.isFinite(equal) ? Math.max(0, Math.min(50, Math.round(equal))) : 0,
  };
  return { asked, mistakes };
}

function seedsOf(
  e: LookEntries,
  velocity: FieldChoice | undefined,
  place: (key: "begin" | "end", text: string) => Vector | undefined,
  number: (key: "count", text: string) => number,
  planes: number,
): SceneAsked["lines"] {
  if (!velocity) return undefined;
  const shared = { of: velocity.array, sense: e.sense };
  if (e.from === "point") {
    const at = place("begin", e.begin);
    return at && { ...shared, seeds: { from: "point", at } };
  }
  const count = number("count", e.count);
  if (!(count >= 1)) return undefined;
  if (e.from === "cut") return planes ? { ...shared, seeds: { from: "cut", count } } : undefined;
  const [at, to] = [place("begin", e.begin), place("end", e.end)];
  return at && to && { ...shared, seeds: { from: "line", at, to, count } };
}
