import { scaleLinear } from "d3-scale";
import { tickText } from "../formatting/scale.ts";
import type { BetweenCodes } from "../method/comparison/betweenCodes.ts";
import { INK } from "./palette.ts";
import { escapeXml, FONT, n } from "./svgText.ts";

const ROW = 22;
const NAMES = 250;
const FOOT = 50;
/** what is drawn, said in the drawing: it is saved and printed by itself */
const SAID = "filled: runs; open: yardsticks; bars: 95 %; dashed: mean of the runs, band: one standard deviation to either side";

interface Line {
  readonly label: string;
  readonly value: number;
  readonly uncertainty?: number;
  readonly yardstick: boolean;
}

/** Runs and yardsticks as points on one scale, bars 95 %; the runs' mean as a line and one standard deviation to either side as a band. */
export function amongChart(found: BetweenCodes, axis: string, width = 760): string {
  const lines: Line[] = [
    ...[...found.each].sort((a, b) => a.value - b.value).map((p) => ({ ...p, yardstick: false })),
    ...found.beside.map((b) => ({ ...b, yardstick: true })),
  ];
  const height = ROW * lines.length + FOOT + 6;
  const ends = lines.flatMap(({ value, uncertainty = 0 }) => [value - uncertainty, value + uncertainty]);
  const [low, high] = [Math.min(...ends, found.mean - found.spread), Math.max(...ends, found.mean + found.spread)];
  const margin = 0.06 * (high - low || Math.abs(high) || 1);
  const x = scaleLinear([low - margin, high + margin], [NAMES, width - 14]);
  const ticks = x.ticks(5);
  const text = tickText(ticks);
  const bottom = height - FOOT;
  const grid = ticks.map(
    (t) =>
      `<path d="M${n(x(t))} 4V${bottom}" stroke="${INK.line}"/><text x="${n(x(t))}" y="${bottom + 14}" text-anchor="middle" fill="${INK.ink2}">${escapeXml(text.whole(t))}</text>`,
  );
  const band = `<rect x="${n(x(found.mean - found.spread))}" y="4" width="${n(x(found.mean + found.spread) - x(found.mean - found.spread))}" height="${bottom - 4}" fill="${INK.blue}" opacity="0.08"/>`;
  const mean = `<path d="M${n(x(found.mean))} 4V${bottom}" stroke="${INK.blue}" stroke-dasharray="4 3"/>`;
  const rows = lines.map((l, i) => row(l, ROW * i + ROW / 2 + 4, x));
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img" aria-label="runs and yardsticks on one scale" font-family="${FONT}" font-size="11">${band}${grid.join("")}${mean}${rows.join("")}<text x="${n((NAMES + width - 14) / 2)}" y="${height - 20}" text-anchor="middle" fill="${INK.ink}">${escapeXml(axis)}</text><text x="${width - 14}" y="${height - 4}" text-anchor="end" font-size="10" fill="${INK.ink2}">${SAID}</text></svg>`;
}

function row({ label, value, uncertainty, yardstick }: Line, y: number, x: (v: number) => number): string {
  const color = yardstick ? INK.brass : INK.blue;
  const bar = uncertainty
    ? `<path d="M${n(x(value - uncertainty))} ${y}H${n(x(value + uncertainty))}M${n(x(value - uncertainty))} ${y - 4}v8M${n(x(value + uncertainty))} ${y - 4}v8" stroke="${color}" fill="none"/>`
    : "";
  const shown = label.length > 40 ? `${label.slice(0, 39)}…` : label;
  return `<text x="${NAMES - 10}" y="${y + 4}" text-anchor="end" fill="${INK.ink}">${escapeXml(shown)}</text>${bar}<circle cx="${n(x(value))}" cy="${y}" r="3.6" fill="${yardstick ? "#fff" : color}" stroke="${color}" stroke-width="1.4"/>`;
}
