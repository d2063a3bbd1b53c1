"use client";

import { Download } from "lucide-react";

/** A drawing of the core's drawing module, the same as in the report, with its SVG to save. */
export function Drawing({ svg, name }: { svg: string; name: string }) {
  const save = () => {
    const url = URL.createObjectURL(new Blob([svg], { type: "image/svg+xml" }));
    const a = document.createElement("a");
    a.href = url;
    a.download = `${name.replace(/[^\w-]+/g, "-")}.svg`;
    a.click();
    URL.revokeObjectURL(url);
  };
  return (
    <figure className="relative">
      <div className="[&>svg]:h-auto [&>svg]:max-w-full" dangerouslySetInnerHTML={{ __html: svg }} />
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
