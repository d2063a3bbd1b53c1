import type { Credibility } from "../method/credibility/credibility.ts";
import { INK } from "./palette.ts";
import { escapeXml, FONT, n } from "./svgText.ts";

const ROW = 21;
const NAMES = 190;
const TOP = 8;
const FOOT = 54;
const LEVELS = [0, 1, 2, 3, 4] as const;
const SAID = "solid: level; hollow: what the evidence alone supports; brass line: what the decision asks for";

/** Each factor as a tape along one ruled scale from 0 to 4, with what the evidence alone supports and what the decision asks for. */
export function credibilityProfile({ factors, target }: Credibility, width = 560): string {
  const height = TOP + ROW * factors.length + FOOT;
  const bottom = TOP + ROW * factors.length;
  const x = (level: number): number => NAMES + (level / 4) * (width - 16 - NAMES);
  const ruled = LEVELS.map(
    (l) =>
      `<path d="M${n(x(l))} ${TOP}V${bottom + 6}" stroke="${INK.line}"/><text x="${n(x(l))}" y="${bottom + 18}" text-anchor="middle" fill="${INK.ink2}">${l}</text>`,
  );
  const rows = factors.map((f, i) => {
    const y = TOP + ROW * i + ROW / 2;
    const name = `<text x="${NAMES - 12}" y="${y + 4}" text-anchor="end" fill="${INK.ink}">${escapeXml(f.name)}</text>`;
    if (f.level === undefined || f.proposed === undefined)
      return `${name}<text x="${NAMES + 6}" y="${y + 4}" fill="${INK.ink2}">does not apply</text>`;
    const short = target !== undefined && f.level < target;
    const color = short ? INK.pointer : INK.verdigris;
    const proposed =
      f.proposed === f.level
        ? ""
        : `<rect x="${n(x(0))}" y="${y - 5}" width="${n(x(f.proposed) - x(0))}" height="10" fill="none" stroke="${INK.ink2}" stroke-dasharray="3 2"/>`;
    // A level of nought is a mark at the beginning, not nothing.
    const bar = f.level
      ? `<rect x="${n(x(0))}" y="${y - 4}" width="${n(x(f.level) - x(0))}" height="8" fill="${color}"/>`
      : `<path d="M${n(x(0))} ${y - 5}v10" stroke="${color}" stroke-width="3"/>`;
    return `${name}${proposed}${bar}<text x="${n(x(f.level) + 6)}" y="${y + 4}" font-weight="600" fill="${INK.ink}">${f.level}</text>`;
  });
  const aim =
    target === undefined
      ? ""
      : `<path d="M${n(x(target))} ${TOP - 4}V${bottom}" stroke="${INK.brass}" stroke-width="2"/><text x="${n(x(target))}" y="${bottom + 30}" text-anchor="middle" fill="${INK.brass}" font-size="10">asked for</text>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img" aria-label="credibility factor by factor" font-family="${FONT}" font-size="11">${ruled.join("")}${aim}${rows.join("")}<text x="12" y="${height - 2}" font-size="10" fill="${INK.ink2}">${SAID}</text></svg>`;
}
