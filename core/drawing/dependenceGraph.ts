import { DEPENDENCE_COLUMNS, type Dependence } from "../assessment/dependence.ts";
import { INK } from "./palette.ts";
import { escapeXml, FONT, n } from "./svgText.ts";

const ROW = 26;
const HEAD = 30;
const BOX = 20;
const GAP = 26;
const LETTER = 6.1;

interface Placed {
  readonly x: number;
  readonly y: number;
}

/** What rests on what, columns from left to right; what is stale is dashed, with the lines that lead to it. Each box leads to its page. */
export function dependenceGraph({ nodes, edges }: Dependence, caseId: string, width = 1000): string {
  const columns = DEPENDENCE_COLUMNS.filter((c) => nodes.some((x) => x.column === c));
  const each = (width - GAP * (columns.length - 1)) / columns.length;
  const most = Math.max(...columns.map((c) => nodes.filter((x) => x.column === c).length));
  const height = HEAD + ROW * most + 6;
  const at = new Map<string, Placed>();
  for (const [k, c] of columns.entries()) {
    const own = nodes.filter((x) => x.column === c);
    // A short column stands in the middle of the long ones.
    const top = HEAD + (ROW * (most - own.length)) / 2;
    own.forEach((node, i) => {
      at.set(node.id, { x: k * (each + GAP), y: top + ROW * i });
    });
  }
  const fresh = new Map(nodes.map((x) => [x.id, x.fresh]));
  const lines = edges.map(([from, to]) => {
    const [a, b] = [at.get(from), at.get(to)];
    if (!a || !b) return "";
    const stale = !(fresh.get(from) && fresh.get(to));
    const [x1, y1, x2, y2] = [a.x + each, a.y + BOX / 2, b.x, b.y + BOX / 2];
    const bend = (x1 + x2) / 2;
    return `<path d="M${n(x1)} ${n(y1)}C${n(bend)} ${n(y1)} ${n(bend)} ${n(y2)} ${n(x2)} ${n(y2)}" fill="none" stroke="${stale ? INK.pointer : INK.ink2}" opacity="${stale ? 0.7 : 0.35}"${stale ? ' stroke-dasharray="3 3"' : ""}/>`;
  });
  const boxes = nodes.map((node) => {
    const p = at.get(node.id) as Placed;
    const fits = Math.floor((each - 14) / LETTER);
    const label = node.label.length > fits ? `${node.label.slice(0, Math.max(1, fits - 1))}…` : node.label;
    const line = node.fresh ? `stroke="${INK.ink2}"` : `stroke="${INK.pointer}" stroke-dasharray="3 2"`;
    const said = `${node.label}${node.fresh ? "" : ", stale"}`;
    return `<a href="/cases/${encodeURIComponent(caseId)}/${node.go}" aria-label="${escapeXml(said)}"><title>${escapeXml(said)}</title><rect x="${n(p.x + 0.5)}" y="${n(p.y + 0.5)}" width="${n(each - 1)}" height="${BOX - 1}" fill="#fff" ${line}/><text x="${n(p.x + 7)}" y="${n(p.y + 14)}" fill="${INK.ink}">${escapeXml(label)}</text></a>`;
  });
  const heads = columns.map((c, k) => `<text x="${n(k * (each + GAP))}" y="14" fill="${INK.ink2}" font-weight="600">${c}</text>`);
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${n(height)}" width="${width}" height="${n(height)}" role="group" aria-label="what rests on what" font-family="${FONT}" font-size="11">${heads.join("")}${lines.join("")}${boxes.join("")}</svg>`;
}
