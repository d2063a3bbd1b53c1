import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { QuantityRefinement } from "../assessment/results/refinement.ts";
import { percent } from "../formatting/number.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import { INK } from "./palette.ts";
import { escapeXml, FONT, n } from "./svgText.ts";

const ACROSS = 4;
const WIDTH = 188;
const HEIGHT = 112;
const PAD = { left: 8, right: 8, top: 30, bottom: 18 };

/**
 * Every quantity in a panel of its own, all on one abscissa: how far each mesh's value lies from the finest one, with the quantity's limit as a band.
 * @returns undefined where no quantity has two values
 */
export function valuePanels(
  found: readonly QuantityRefinement[],
  quantities: readonly QuantitySpec[],
  scales: Readonly<Record<string, number>>,
): string | undefined {
  const panels = found.flatMap((r) => {
    const points = r.rungs.filter((g) => g.value !== undefined);
    const q = quantities.find((x) => x.key === r.key);
    const scale = scales[r.key];
    if (points.length < 2 || !q || !scale) return [];
    const finest = points.find((g) => g.used) ?? points[0];
    return [
      {
        q,
        limit: r.limit,
        points: points.map((g) => ({ x: g.spacing / finest.spacing, y: ((g.value ?? 0) - (finest.value ?? 0)) / scale, used: g.used })),
      },
    ];
  });
  if (!panels.length) return undefined;
  const farthest = Math.max(...panels.flatMap((p) => p.points.map((g) => g.x)));
  const rows = Math.ceil(panels.length / ACROSS);
  const across = Math.min(ACROSS, panels.length);
  const drawn = panels.map(
    (p, k) => `<g transform="translate(${(k % ACROSS) * WIDTH} ${Math.floor(k / ACROSS) * HEIGHT})">${panel(p, farthest)}</g>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${across * WIDTH} ${rows * HEIGHT}" width="${across * WIDTH}" height="${rows * HEIGHT}" role="img" aria-label="every quantity against mesh spacing" font-family="${FONT}" font-size="10.5">${drawn.join("")}</svg>`;
}

interface Panel {
  readonly q: QuantitySpec;
  readonly limit: number;
  readonly points: readonly { readonly x: number; readonly y: number; readonly used: boolean }[];
}

function panel({ q, limit, points }: Panel, farthest: number): string {
  const away = Math.max(...points.map((p) => Math.abs(p.y)));
  // The band shows while it tells something; a limit far beyond the values would flatten them to a line.
  const reach = Math.max(away, Math.min(limit, 4 * away)) || limit;
  const x = scaleLinear([0, farthest * 1.06], [PAD.left, WIDTH - PAD.right]);
  const y = scaleLinear([-reach * 1.1, reach * 1.1], [HEIGHT - PAD.bottom, PAD.top]);
  const [low, high] = [Math.min(y(-limit), HEIGHT - PAD.bottom), Math.max(y(limit), PAD.top)];
  const path = line<Panel["points"][number]>(
    (p) => x(p.x),
    (p) => y(p.y),
  )(points as Panel["points"][number][]);
  const dots = points.map(
    (p) =>
      `<circle cx="${n(x(p.x))}" cy="${n(y(p.y))}" r="2.6" fill="${p.used ? INK.blue : "#fff"}" stroke="${INK.blue}"><title>${escapeXml(`h/h1 ${p.x.toFixed(2)}: ${percent(p.y)} from the finest`)}</title></circle>`,
  );
  const name = q.name.length > 30 ? `${q.name.slice(0, 29)}…` : q.name;
  return [
    `<text x="${PAD.left}" y="11" fill="${INK.ink}">${escapeXml(name)}</text>`,
    `<text x="${PAD.left}" y="23" fill="${INK.ink3}" font-size="9.5">${escapeXml(`up to ${percent(away)} off, limit ${percent(limit)}`)}</text>`,
    `<rect x="${PAD.left}" y="${n(high)}" width="${WIDTH - PAD.left - PAD.right}" height="${n(Math.max(0, low - high))}" fill="${INK.soft}"/>`,
    `<line x1="${PAD.left}" x2="${WIDTH - PAD.right}" y1="${n(y(0))}" y2="${n(y(0))}" stroke="${INK.tin}" stroke-dasharray="2 2"/>`,
    `<path d="${path ?? ""}" fill="none" stroke="${INK.blue}" stroke-width="1.2"/>`,
    ...dots,
    ...[1, Math.round(farthest)].map(
      (h) => `<text x="${n(x(h))}" y="${HEIGHT - 5}" fill="${INK.ink3}" font-size="9.5" text-anchor="middle">${h === 1 ? "h₁" : `${h} h₁`}</text>`,
    ),
  ].join("");
}
