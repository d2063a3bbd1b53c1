import { cross, minus, plus, size, times, type Vector } from "../dataset/vector.ts";
import type { SceneAsked } from "./sceneAsked.ts";
import { fieldOn, type Layer } from "./sceneLayers.ts";
import type { Volume } from "./volume.ts";

/** arrows over the first cut's longer side */
const ARROWS = 18;
/** length of the longest arrow, in spacings, and of its head in its own length */
const REACH = 0.9;
const HEAD = 0.28;

/** Arrows at places a raster apart on the cuts, the longest nearly as long as the raster is wide. */
export function arrowsOf(volume: Volume, asked: SceneAsked, layers: readonly Layer[]): number[] {
  if (!asked.arrows) return [];
  const vector = volume.onPoints(asked.arrows);
  const spacing = (2 * volume.radius) / ARROWS / 1.6;
  const taken = new Set<string>();
  const found: { readonly at: Vector; readonly v: Vector; readonly normal: Vector }[] = [];
  for (const { what, number, grid } of layers) {
    if (what !== "cut") continue;
    const { normal } = asked.planes[number];
    for (const q of grid.corners) {
      const at: Vector = [grid.points[3 * q], grid.points[3 * q + 1], grid.points[3 * q + 2]];
      const key = `${number} ${at.map((x) => Math.round(x / spacing)).join(" ")}`;
      if (taken.has(key)) continue;
      const out = new Float64Array(3);
      if (!volume.finder.valueAt(at, vector, out)) continue;
      taken.add(key);
      found.push({ at, v: [out[0], out[1], out[2]], normal });
    }
  }
  const longest = found.reduce((m, f) => Math.max(m, size(f.v)), 0);
  if (!(longest > 0)) return [];
  return found.flatMap(({ at, v, normal }) => {
    const own = times(v, (REACH * spacing) / longest);
    const tip = plus(at, own);
    const side = times(cross(own, times(normal, 1 / size(normal))), HEAD / 2);
    const back = minus(tip, times(own, HEAD));
    return [at, tip, tip, plus(back, side), tip, minus(back, side)].flat();
  });
}

/** Lines of equal value, even between the ends of the colours, where values lie on points. */
export function equalLines(layers: readonly Layer[], { equal }: SceneAsked, [low, high]: readonly [number, number]): number[] {
  if (!(equal > 0 && high > low)) return [];
  const levels = Array.from({ length: Math.min(50, equal) }, (_, k) => low + ((k + 1) * (high - low)) / (equal + 1));
  const out: number[] = [];
  for (const { grid } of layers) {
    const [points] = fieldOn(grid);
    if (!points) continue;
    const { cellStart, corners } = grid;
    const place = (q: number): Vector => [grid.points[3 * q], grid.points[3 * q + 1], grid.points[3 * q + 2]];
    for (let c = 0; c < grid.kinds.length; c++)
      for (let k = cellStart[c] + 1; k + 1 < cellStart[c + 1]; k++) {
        const own = [corners[cellStart[c]], corners[k], corners[k + 1]];
        for (const level of levels) {
          const met = own.flatMap((q, m): Vector[] => {
            const next = own[(m + 1) % 3];
            const [a, b] = [points.values[q], points.values[next]];
            if (a < level === b < level) return [];
            const s = (level - a) / (b - a);
            return [plus(times(place(q), 1 - s), times(place(next), s))];
          });
          if (met.length === 2) out.push(...met[0], ...met[1]);
        }
      }
  }
  return out;
}
