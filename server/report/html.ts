import { escapeXml } from "../../core/drawing/svgText.ts";
import { type ProseBlock, type ProseRun, readProse } from "../../core/formats/prose.ts";
import type { ReportDocument } from "../../core/formats/reportDocument.ts";
import { withNumbers } from "../../core/formats/reportNumbers.ts";
import { columnText } from "../../core/formatting/cell.ts";

const STYLE = `body{font:14px/1.45 Archivo,Helvetica,Arial,sans-serif;color:#1d2427;background:#fff;max-width:860px;margin:32px auto;padding:0 24px}
h1{font-size:24px;margin:4px 0}h2{font-size:16px;border-bottom:1px solid #c2c6c5;margin:28px 0 6px}h3{font-size:13px;margin:14px 0 4px}
p{margin:4px 0}.pale{color:#4f5a5e}.mono{font-family:"IBM Plex Mono",monospace;font-size:12px}
table{border-collapse:collapse;width:100%;font-size:12.5px}th,td{border-bottom:1px solid #d3d1c7;padding:3px 8px 3px 0;text-align:left;vertical-align:top}
td{overflow-wrap:anywhere}td.n{text-align:right;font-family:"IBM Plex Mono",monospace}figure{margin:10px 0}figcaption{font-size:12px;font-weight:600}svg,img{max-width:100%;height:auto}
.own{display:block;font-weight:400}.item span{display:inline-block;min-width:1.1em;margin-left:-1.2em}pre,code{font-family:"IBM Plex Mono",monospace;font-size:12px}blockquote{margin:4px 0 4px 0;padding-left:12px;border-left:2px solid #c2c6c5}nav a{margin-right:12px}@media print{body{margin:0;max-width:none}h2,h3,figcaption{break-after:avoid}tr,figure{break-inside:avoid}nav{display:none}}`;

/** An issued report as one HTML file: nothing is fetched from anywhere, and no script runs in it. */
export function reportHtml(frozen: ReportDocument): string {
  const d = withNumbers(frozen);
  const verdicts = d.verdicts.map(verdictRow);
  const contents = d.sections.map((s, k) => `<a href="#s${k}">${escapeXml(s.title)}</a>`);
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta http-equiv="Content-Security-Policy" content="default-src 'none'; img-src data:; style-src 'unsafe-inline'"><title>${escapeXml(d.title)}, report ${d.number}</title><style>${STYLE}</style></head><body>
<p class="pale">${escapeXml(d.programme)}</p><h1>${escapeXml(d.title)}</h1><p class="pale">Report ${d.number}, issued ${escapeXml(d.issuedAt.slice(0, 16).replace("T", " "))} UTC by ${escapeXml(d.issuedBy)}</p><p class="mono">evidence ${escapeXml(d.evidenceHash)}</p>
<nav>${contents.join("")}</nav>${d.sections.map((s, k) => `${k === firstAfterDecision(d) ? `<table>${verdicts.join("")}</table>` : ""}${section(d, s, k)}`).join("\n")}</body></html>`;
}

function verdictRow(v: ReportDocument["verdicts"][number]): string {
  const why = v.reasons.length ? ` Why: ${escapeXml(v.reasons.join("; "))}.` : "";
  const argued = v.byArgument ? `<br><b>Rests on reasons instead of measurements: ${escapeXml(v.byArgument.join("; "))}.</b>` : "";
  const next = v.next ? `<br>Next: ${escapeXml(v.next)}` : "";
  return `<tr><td>${escapeXml(v.quantity)}</td><td><b>${escapeXml(v.word)}</b></td><td>${escapeXml(v.claim ?? v.sentence)}${why}${argued}${next}</td></tr>`;
}

/** Verdicts in full follow the page for the decision; in reports that have none they come first. */
const firstAfterDecision = (d: ReportDocument): number => (d.sections[0]?.stage === "decision" ? 1 : 0);

function section(d: ReportDocument, s: ReportDocument["sections"][number], k: number): string {
  const drawings = s.drawings.flatMap((key) => d.drawings.filter((g) => g.key === key));
  const pictures = d.pictures.filter((p) => p.stage === s.stage);
  const tables = s.tables.flatMap((key) => d.tables.filter((t) => t.key === key));
  return `<section id="s${k}"><h2>${escapeXml(s.title)}</h2>${s.sentences.map((t) => `<p>${escapeXml(t)}</p>`).join("")}${s.markdown ? readProse(s.markdown).map(proseBlock).join("") : ""}${drawings
    .map((g) => `<figure>${withoutLinks(g.svg)}<figcaption>${titled(g)}</figcaption></figure>`)
    .join("")}${pictures
    .map(
      (p) =>
        `<figure><img alt="${escapeXml(p.title)}" src="data:image/png;base64,${p.pngBase64.replace(/[^A-Za-z0-9+/=]/g, "")}"><figcaption>${titled(p)}</figcaption></figure>`,
    )
    .join("")}${tables.map(tabled).join("")}</section>`;
}

/** A title with what whoever issued the report says under it. */
const titled = ({ title, caption }: { readonly title: string; readonly caption?: string | undefined }): string =>
  caption ? `${escapeXml(title)}<span class="own">${escapeXml(caption)}</span>` : escapeXml(title);

function proseBlock(b: ProseBlock): string {
  switch (b.kind) {
    case "heading":
      return `<h3>${proseRuns(b.runs)}</h3>`;
    case "item":
      return `<p class="item" style="margin-left:${1.4 * (b.depth + 1)}em"><span>${escapeXml(b.mark)}</span> ${proseRuns(b.runs)}</p>`;
    case "quote":
      return `<blockquote><p>${proseRuns(b.runs)}</p></blockquote>`;
    case "code":
      return `<pre>${escapeXml(b.text)}</pre>`;
    case "line":
      return "<hr>";
    default:
      return `<p>${proseRuns(b.runs)}</p>`;
  }
}

const proseRuns = (runs: readonly ProseRun[]): string =>
  runs
    .map((r) => {
      let text = escapeXml(r.text).replace(/\n/g, " ");
      if (r.code) text = `<code>${text}</code>`;
      if (r.italic) text = `<i>${text}</i>`;
      if (r.bold) text = `<b>${text}</b>`;
      return r.href ? `<a href="${escapeXml(r.href)}" rel="noreferrer">${text}</a>` : text;
    })
    .join("");

/** Drawings are our own; what leads into the application leads nowhere from a file. */
const withoutLinks = (svg: string): string => svg.replace(/<\/?a\b[^>]*>/g, "");

function tabled(t: ReportDocument["tables"][number]): string {
  const texts = t.columns.map((c, k) =>
    columnText(
      t.rows.map((r) => r[k] ?? null),
      c.unit,
      c.name,
    ),
  );
  const head = t.columns.map((c) => `<th>${escapeXml(c.unit && c.unit !== "1" ? `${c.name} (${c.unit})` : c.name)}</th>`).join("");
  const rows = t.rows.map(
    (r, i) => `<tr>${r.map((v, k) => `<td${typeof v === "number" ? ' class="n"' : ""}>${escapeXml(texts[k][i])}</td>`).join("")}</tr>`,
  );
  return `<h3>${titled(t)}</h3><table><thead><tr>${head}</tr></thead><tbody>${rows.join("")}</tbody></table>`;
}
