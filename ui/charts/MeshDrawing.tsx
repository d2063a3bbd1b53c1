import { meshLines } from "@/core/drawing/meshLines";
import { bounds } from "@/core/mesh/bounds";
import type { FaceMesh } from "@/core/mesh/faceMesh";

/** The edges of a mesh; boundaries stronger. */
export function MeshDrawing({ mesh, width, most, label }: { mesh: FaceMesh; width: number; most: number; label: string }) {
  const { low, high } = bounds(mesh.pointsM);
  const scale = Math.min(width / (high[0] - low[0]), most / (high[1] - low[1]));
  const w = (high[0] - low[0]) * scale;
  const h = (high[1] - low[1]) * scale;
  const path = (which: "all" | "boundary") => {
    const s = meshLines(mesh, which);
    const out: string[] = [];
    const x = (v: number) => ((v - low[0]) * scale).toFixed(1);
    const y = (v: number) => (h - (v - low[1]) * scale).toFixed(1);
    for (let k = 0; k < s.length; k += 4) out.push(`M${x(s[k])} ${y(s[k + 1])}L${x(s[k + 2])} ${y(s[k + 3])}`);
    return out.join("");
  };
  return (
    <svg viewBox={`-1 -1 ${w + 2} ${h + 2}`} style={{ width: w + 2, maxWidth: "100%" }} className="bg-plot" role="img" aria-label={label}>
      <path d={path("all")} stroke="#27506B" strokeWidth={mesh.cellCount > 4000 ? 0.2 : mesh.cellCount > 800 ? 0.35 : 0.5} fill="none" />
      <path d={path("boundary")} stroke="#1D2427" strokeWidth="1" fill="none" />
    </svg>
  );
}
