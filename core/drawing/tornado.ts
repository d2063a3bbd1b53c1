import { scaleLinear } from "d3-scale";
import { percent } from "../formatting/number.ts";
import type { InputBudget } from "../method/propagation/inputs.ts";
import { INK } from "./palette.ts";
import { escapeXml, FONT, n } from "./svgText.ts";

const WIDTH = 560;
const ROW = 22;
const HEAD = 26;
const NAMES = 190;
const FIGURES = 74;

/**
 * What each input makes of a quantity, the largest on top: to either side as far as its 95 % uncertainty moves it. The side it rises to is filled.
 * @returns undefined where no answer is known
 */
export function tornado({ shares, relative }: InputBudget, name: string): string | undefined {
  const rows = shares.flatMap((s) => (s.relative === undefined || !s.sensitivity ? [] : [{ ...s, size: s.relative, answer: s.sensitivity.value }]));
  const reach = Math.max(0, ...rows.map((r) => r.size));
  if (!(reach > 0)) return undefined;
  const height = HEAD + ROW * rows.length + 8;
  const x = scaleLinear([-reach, reach], [NAMES + 6, WIDTH - FIGURES]);
  const bars = [...rows].sort((a, b) => b.size - a.size).map((r, k) => bar(r, HEAD + k * ROW));
  function bar(r: (typeof rows)[number], y: number): string {
    const [left, middle, right] = [x(-r.size), x(0), x(r.size)];
    // Filled where the quantity goes when the input goes up.
    const [up, down] = r.answer >= 0 ? [middle, left] : [left, middle];
    const side = (from: number, filled: boolean) =>
      `<rect x="${n(from)}" y="${y + 4}" width="${n(right - middle)}" height="${ROW - 9}" fill="${filled ? INK.blue : "none"}" stroke="${INK.blue}"/>`;
    const label = r.label.length > 32 ? `${r.label.slice(0, 31)}…` : r.label;
    return `<text x="${NAMES}" y="${y + 15}" text-anchor="end" fill="${INK.ink}">${escapeXml(label)}</text>${side(down, false)}${side(up, true)}<text x="${n(right + 6)}" y="${y + 15}" fill="${INK.ink2}">±${escapeXml(percent(r.size))}</text>`;
  }
  const whole = relative === undefined ? "" : `, together ±${percent(relative)}`;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${height}" width="${WIDTH}" height="${height}" role="img" aria-label="${escapeXml(`What the inputs make of ${name}`)}" font-family="${FONT}" font-size="10.5"><text x="${NAMES + 6}" y="14" fill="${INK.ink2}">${escapeXml(`${name}${whole}; filled: the condition goes up`)}</text><line x1="${n(x(0))}" x2="${n(x(0))}" y1="${HEAD}" y2="${height - 6}" stroke="${INK.ink3}"/>${bars.join("")}</svg>`;
}
