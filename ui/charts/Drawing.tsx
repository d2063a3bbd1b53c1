"use client";

import { escapeXml } from "@/core/drawing/svgText";
import { notifyError } from "../shell/notify";
import { asPng } from "./asPng";
import { RestsOnChip, useOrigin } from "./FigureOrigin";
import { saveFile } from "./saveFile";

interface DrawingProps {
  readonly svg: string;
  readonly name: string;
  /** as wide as the page lets it */
  readonly wide?: boolean;
  /** what this figure rests on besides what its page does: runs, records, yardsticks */
  readonly of?: string;
}

/** A drawing as a file: what it rests on goes along as its description. */
export const described = (svg: string, said: string): string =>
  said ? svg.replace(/^(<svg\b[^>]*>)/, `$1<desc>${escapeXml(`Rests on ${said}.`)}</desc>`) : svg;

/** A drawing of the core's drawing module, the same as in the report, to be saved as a drawing or as a picture. */
export function Drawing({ svg, name, wide = false, of }: DrawingProps) {
  const said = useOrigin(of);
  const savePng = () =>
    asPng(svg)
      .then((picture) => saveFile(name, "png", picture, "image/png"))
      .catch(notifyError);
  const button = "rounded border border-line bg-sheet px-1 font-mono text-[10px] text-ink-3";
  return (
    <figure className="relative">
      <div className={`[&>svg]:h-auto [&>svg]:w-full ${wide ? "" : "[&>svg]:max-w-[540px]"}`} dangerouslySetInnerHTML={{ __html: svg }} />
      <span className="no-print absolute -top-5 right-2 flex gap-1">
        <button
          type="button"
          onClick={() => saveFile(name, "svg", described(svg, said), "image/svg+xml")}
          className={button}
          aria-label={`Save ${name} as SVG`}
        >
          SVG
        </button>
        <button type="button" onClick={() => void savePng()} className={button} aria-label={`Save ${name} as PNG`}>
          PNG
        </button>
      </span>
      <RestsOnChip said={said} name={name} right="right-[76px]" />
    </figure>
  );
}
