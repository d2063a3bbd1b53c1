"use client";

import { Download } from "lucide-react";
import { saveFile } from "./saveFile";

/** A drawing of the core's drawing module, the same as in the report, with its SVG to save. */
export function Drawing({ svg, name, wide = false }: { svg: string; name: string /** as wide as the page lets it */; wide?: boolean }) {
  const save = () => saveFile(name, "svg", svg, "image/svg+xml");
  return (
    <figure className="relative">
      <div className={`[&>svg]:h-auto [&>svg]:w-full ${wide ? "" : "[&>svg]:max-w-[540px]"}`} dangerouslySetInnerHTML={{ __html: svg }} />
      <button
        type="button"
        onClick={save}
        className="no-print absolute -top-5 right-2 rounded border border-line bg-sheet p-0.5 text-ink-3"
        aria-label={`Save ${name} as SVG`}
      >
        <Download size={12} />
      </button>
    </figure>
  );
}
