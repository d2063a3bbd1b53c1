"use client";

import { notifyError } from "../shell/notify";
import { asPng } from "./asPng";
import { saveFile } from "./saveFile";

interface DrawingProps {
  readonly svg: string;
  readonly name: string;
  /** as wide as the page lets it */
  readonly wide?: boolean;
}

/** A drawing of the core's drawing module, the same as in the report, to be saved as a drawing or as a picture. */
export function Drawing({ svg, name, wide = false }: DrawingProps) {
  const savePng = () =>
    asPng(svg)
      .then((picture) => saveFile(name, "png", picture, "image/png"))
      .catch(notifyError);
  const button = "rounded border border-line bg-sheet px-1 font-mono text-[10px] text-ink-3";
  return (
    <figure className="relative">
      <div className={`[&>svg]:h-auto [&>svg]:w-full ${wide ? "" : "[&>svg]:max-w-[540px]"}`} dangerouslySetInnerHTML={{ __html: svg }} />
      <span className="no-print absolute -top-5 right-2 flex gap-1">
        <button type="button" onClick={() => saveFile(name, "svg", svg, "image/svg+xml")} className={button} aria-label={`Save ${name} as SVG`}>
          SVG
        </button>
        <button type="button" onClick={() => void savePng()} className={button} aria-label={`Save ${name} as PNG`}>
          PNG
        </button>
      </span>
    </figure>
  );
}
