import type { Layers, Stroke } from "./useFieldWork";

interface Props {
  readonly layers: Layers;
  readonly setLayers: (l: Layers) => void;
  /** which layers can be drawn of what is shown */
  readonly able: Readonly<Record<keyof Layers, boolean>>;
  readonly sampling: boolean;
  readonly setSampling: (on: boolean) => void;
  readonly canSample: boolean;
  readonly showAll: () => void;
}

const NAMES: readonly (readonly [keyof Layers, string])[] = [
  ["smooth", "smoothed"],
  ["contours", "contours"],
  ["vectors", "arrows"],
  ["streams", "streamlines"],
  ["texture", "texture along the flow"],
  ["mesh", "mesh"],
];

/** What is drawn over the field, and what the pointer does. */
export function FieldTools(p: Props) {
  return (
    <div className="no-print mt-1 flex flex-wrap items-center gap-x-3 gap-y-2 text-[11.5px]">
      {NAMES.map(([key, label]) => (
        <label key={key} className={`flex min-h-6 items-center gap-1 ${p.able[key] ? "" : "text-ink-3"}`}>
          <input
            type="checkbox"
            checked={p.layers[key]}
            disabled={!p.able[key]}
            onChange={() => p.setLayers({ ...p.layers, [key]: !p.layers[key] })}
          />
          {label}
        </label>
      ))}
      <button type="button" className="link" aria-pressed={p.sampling} disabled={!p.canSample} onClick={() => p.setSampling(!p.sampling)}>
        {p.sampling ? "end sampling" : "sample a line"}
      </button>
      <button type="button" className="link" onClick={p.showAll}>
        show all
      </button>
    </div>
  );
}

/** Hands a picture that has an address to the person. */
export function save(href: string, file: string): void {
  const a = document.createElement("a");
  a.href = href;
  a.download = file;
  a.click();
}

/** The lines of a picture as SVG. */
function linesSvg(
  strokes: readonly Stroke[],
  view: { readonly x0: number; readonly y0: number; readonly pixelM: number },
  w: number,
  h: number,
): string {
  const px = (x: number) => ((x - view.x0) / view.pixelM).toFixed(2);
  const py = (y: number) => (h - (y - view.y0) / view.pixelM).toFixed(2);
  const paths = strokes.map(({ segments, color, width }) => {
    const d: string[] = [];
    for (let k = 0; k < segments.length; k += 4) d.push(`M${px(segments[k])} ${py(segments[k + 1])}L${px(segments[k + 2])} ${py(segments[k + 3])}`);
    // White lines are seen on colours only.
    const ink = color.startsWith("rgba(255") ? "#27506B" : color;
    return `<path d="${d.join("")}" stroke="${ink}" stroke-width="${width}" fill="none"/>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${w} ${h}" width="${w}" height="${h}">${paths.join("")}</svg>`;
}

/** The picture and its numbers as files. */
export function FieldExports(p: {
  readonly name: string;
  readonly runId: string;
  readonly stored: boolean;
  readonly picture: () => string;
  readonly strokes: readonly Stroke[];
  readonly view: { readonly x0: number; readonly y0: number; readonly pixelM: number };
  readonly width: number;
  readonly height: number;
}) {
  const svg = () => {
    const text = linesSvg(p.strokes, p.view, p.width, p.height);
    save(URL.createObjectURL(new Blob([text], { type: "image/svg+xml" })), `${p.name}.svg`);
  };
  return (
    <div className="no-print mt-2 flex gap-3 text-[11.5px]">
      <button type="button" className="link" onClick={() => save(p.picture(), `${p.name}.png`)}>
        PNG
      </button>
      <button type="button" className="link" onClick={svg}>
        SVG of the lines
      </button>
      {p.stored ? (
        <>
          <a className="link" href={`/api/runs/${p.runId}/fields.vtu`}>
            VTK
          </a>
          <a className="link" href={`/api/runs/${p.runId}/fields.csv`}>
            CSV
          </a>
        </>
      ) : null}
    </div>
  );
}
