import { percent, signedPercent } from "../formatting/number.ts";
import type { ErrorBudget } from "../method/budget/errorBudget.ts";
import { INK } from "./palette.ts";
import { placeLabels } from "./pinLabels.ts";
import { escapeXml } from "./svgText.ts";

export interface RulePin {
  readonly key: string;
  readonly name: string;
  /** the name where there was room to print it, else empty */
  readonly label: string;
  readonly x: number;
  readonly lane: number;
  readonly textX: number;
  readonly anchor: "start" | "end";
  readonly color: string;
  readonly relative: number;
  readonly stage: string;
  /** said by a person: drawn hollow */
  readonly byHand: boolean;
}

export interface RuleLayout {
  readonly pins: readonly RulePin[];
  readonly pointer?: { readonly x: number; readonly textX: number; readonly anchor: "start" | "middle" | "end"; readonly text: string };
  readonly band?: { readonly x: number; readonly text: string };
  readonly ticks: readonly {
    readonly x: number;
    readonly major: boolean;
    readonly half: boolean;
    readonly text?: string | undefined;
    /** side of the tick its figure stands on, so that neither the end of the rule nor the pointer hides it */
    readonly anchor: "start" | "end";
  }[];
}

/** decades of the rule in the head of a case and of the small one on the board */
export const HEAD_DECADES = [-9, 0] as const;
export const BOARD_DECADES = [-6, 0] as const;
const FIGURE_WIDTH = 6.8;
const NAMES: Readonly<Record<number, string>> = {
  "-9": "10⁻⁹",
  "-8": "10⁻⁸",
  "-7": "10⁻⁷",
  "-6": "1 ppm",
  "-5": "0.001 %",
  "-4": "0.01 %",
  "-3": "0.1 %",
  "-2": "1 %",
  "-1": "10 %",
  "0": "100 %",
};

/** Position of a fraction on a rule from x0 to x1; what lies off the scale sits at its end. */
export function ruleX(relative: number, decades: readonly [number, number], x0: number, x1: number): number {
  const t = (Math.log10(Math.max(relative, 1e-300)) - decades[0]) / (decades[1] - decades[0]);
  return x0 + Math.min(1, Math.max(0, t)) * (x1 - x0);
}

const PIN_COLOR = { numerical: INK.blue, input: INK.brass, machine: INK.ink2 } as const;

/** Places ticks, pins, labels and the pointer of a rule; a pin without room for its label keeps its name for the hint and the table. */
export function layoutRule(rule: ErrorBudget, x0: number, x1: number, decades: readonly [number, number] = HEAD_DECADES): RuleLayout {
  const at = (v: number) => ruleX(v, decades, x0, x1);
  const difference = rule.difference == null ? undefined : Math.abs(rule.difference);
  const pointerX = difference === undefined ? undefined : at(difference);
  const figureSide = (x: number, text: string | undefined): "start" | "end" => {
    const width = (text?.length ?? 0) * FIGURE_WIDTH + 8;
    const hidden = pointerX !== undefined && pointerX > x - 6 && pointerX - 6 < x + width;
    return x + width > x1 + 10 || (hidden && x - width > x0) ? "end" : "start";
  };
  const allTicks = Array.from({ length: decades[1] - decades[0] + 1 }, (_, k) => decades[0] + k).flatMap((d) => [
    { x: at(10 ** d), major: true, half: false, text: NAMES[d], anchor: figureSide(at(10 ** d), NAMES[d]) },
    ...(d < decades[1] ? [2, 3, 4, 5, 6, 7, 8, 9].map((m) => ({ x: at(m * 10 ** d), major: false, half: m === 5, anchor: "start" as const })) : []),
  ]);
  const ticks = withoutCollisions(allTicks, pointerX);
  const text = rule.difference === undefined ? "" : `difference ${signedPercent(rule.difference)}`;
  const half = (text.length * 6.6) / 2;
  const textX = pointerX === undefined ? 0 : Math.min(x1 - half, Math.max(x0 + half, pointerX));
  const measured = rule.sources
    .filter((s) => (s.relative ?? 0) > 0)
    .map((s) => ({ ...s, relative: s.relative ?? 0, x: at(s.relative ?? 0) }))
    .sort((a, b) => a.relative - b.relative);
  const places = placeLabels(measured, [x0, x1], pointerX);
  const pins = measured.map((s, k): RulePin => {
    const { lane, anchor, labelled } = places[k];
    return {
      key: s.key,
      name: s.name,
      label: labelled ? s.name : "",
      x: s.x,
      lane,
      textX: anchor === "start" ? s.x + 5 : s.x - 5,
      anchor,
      color: PIN_COLOR[s.group],
      relative: s.relative,
      stage: s.stage,
      byHand: s.settled !== undefined,
    };
  });
  return {
    ticks,
    pins,
    pointer: pointerX === undefined ? undefined : { x: pointerX, text, textX, anchor: "middle" },
    band: bandOf(rule, at),
  };
}

/** room a tick's figure takes: its letters, and the gap to the tick */
const LETTER = 6.6;
const TICK_GAP = 4;

/** No two figures stand over one another: the one the pointer pushed aside is left out, which the pointer itself tells; else the one before. */
function withoutCollisions<T extends RuleLayout["ticks"][number]>(ticks: readonly T[], pointerX: number | undefined): T[] {
  const named = ticks.filter((t) => t.text);
  const left = new Set<T>();
  named.forEach((t, k) => {
    const before = named[k - 1];
    if (t.anchor !== "end" || before?.anchor !== "start" || left.has(before)) return;
    const wide = (of: T) => LETTER * (of.text?.length ?? 0);
    if (t.x - before.x - 2 * TICK_GAP >= wide(before) + wide(t)) return;
    const pushed = pointerX !== undefined && pointerX > t.x - TICK_GAP - 2 && pointerX < t.x + TICK_GAP + wide(t);
    left.add(pushed ? t : before);
  });
  return ticks.map((t) => (left.has(t) ? { ...t, text: undefined } : t));
}

/** Twice the validation uncertainty; while sources are open, at least what is known of it. */
function bandOf(rule: ErrorBudget, at: (v: number) => number): RuleLayout["band"] {
  if (rule.band != null && rule.band > 0) return { x: at(rule.band), text: `2 u_val ${percent(rule.band)}` };
  if (rule.bandAtLeast != null && rule.bandAtLeast > 0) return { x: at(rule.bandAtLeast), text: `2 u_val at least ${percent(rule.bandAtLeast)}` };
  return undefined;
}

/** A pin's name over a halo of the paper, as two texts: not everything that draws knows which of stroke and fill comes first. */
function haloed({ textX, anchor, label }: RulePin, y: number, font: string): string {
  const text = (look: string) =>
    `<text x="${textX.toFixed(1)}" y="${y}" ${font} font-size="11" ${look} text-anchor="${anchor}">${escapeXml(label)}</text>`;
  return label ? `${text('fill="#FAF9F5" stroke="#FAF9F5" stroke-width="2.5"')}${text(`fill="${INK.ink}"`)}` : "";
}

/** The rule as a self-contained drawing, for the report. */
export function drawRule(rule: ErrorBudget, width: number): string {
  const x0 = 10;
  const x1 = width - 10;
  const base = 110;
  const l = layoutRule(rule, x0, x1);
  const font = `font-family="'Archivo Variable', 'DejaVu Sans', sans-serif"`;
  const mono = `font-family="'IBM Plex Mono', 'DejaVu Sans Mono', monospace"`;
  const out: string[] = [`<rect x="0" y="82" width="${width}" height="30" fill="#D2D5D4"/>`];
  if (l.band) out.push(`<rect x="${x0}" y="84" width="${(l.band.x - x0).toFixed(1)}" height="5" fill="${INK.blue}" fill-opacity="0.3"/>`);
  for (const t of l.ticks) {
    out.push(
      `<path d="M${t.x.toFixed(1)} ${base - (t.major ? 18 : t.half ? 11 : 7)}V${base}" stroke="${t.major ? INK.ink : INK.ink2}" stroke-width="${t.major ? 1.1 : 0.7}"/>`,
    );
    if (t.text)
      out.push(
        `<text x="${(t.x + (t.anchor === "end" ? -4 : 4)).toFixed(1)}" y="${base - 8}" ${mono} font-size="11" fill="${INK.ink2}" text-anchor="${t.anchor}">${t.text}</text>`,
      );
  }
  for (const p of l.pins) {
    const y = 74 - 14 * p.lane;
    out.push(
      `<path d="M${p.x.toFixed(1)} ${y - 6}V78" stroke="${p.color}"/><path d="M${p.x.toFixed(1)} 84l-4 -7h8z" fill="${p.byHand ? "none" : p.color}" stroke="${p.color}"/>${haloed(p, y, font)}`,
    );
  }
  if (l.pointer) {
    const x = l.pointer.x;
    out.push(
      `<path d="M${x.toFixed(1)} ${base}l-5 -10v-60h10v60z" fill="${INK.pointer}"/><text x="${l.pointer.textX.toFixed(1)}" y="14" ${font} font-size="12" font-weight="700" fill="${INK.pointer}" text-anchor="${l.pointer.anchor}">${escapeXml(l.pointer.text)}</text>`,
    );
  }
  const byHand = rule.sources.filter((s) => s.settled).map((s) => s.name);
  const known = `every source ${byHand.length ? `settled, by hand: ${byHand.join(", ")}` : "measured"}`;
  const missing = rule.missing.length ? `open: ${rule.missing.join(", ")}${byHand.length ? `; by hand: ${byHand.join(", ")}` : ""}` : known;
  out.push(
    `<text x="${x0}" y="126" ${font} font-size="11" fill="${INK.ink2}">${escapeXml(`${missing}${l.band ? `; shaded: ${l.band.text}` : ""}`)}</text>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} 132" width="${width}" height="132" role="img" aria-label="Error sources on the rule">${out.join("")}</svg>`;
}
