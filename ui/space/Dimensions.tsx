import type { SurfaceDrawing } from "@/core/drawing/surfaceDrawing";
import { significant } from "@/core/formatting/number";
import type { Camera, Stage } from "./scene";

interface Props {
  readonly drawing: Pick<SurfaceDrawing, "low" | "high" | "middle" | "radius">;
  readonly scene: Stage;
  readonly camera: Camera;
  readonly unit: string;
  readonly width: number;
  readonly height: number;
}

/** width of a letter of the words, px */
const LETTER = 6.8;

/** Lengths along the axes, on three edges of the room the surface fills, as on a drawing: with their axis, so that no separate cross of axes is needed. */
export function Dimensions({ drawing: { low, high, middle, radius }, scene, camera, unit, width, height }: Props) {
  scene.look(camera);
  const place = (x: readonly number[]) => {
    const [u, v] = scene.project(x.map((c, d) => (c - middle[d]) / radius) as unknown as [number, number, number]);
    return [((u + 1) * width) / 2, ((1 - v) * height) / 2] as const;
  };
  return (
    <svg className="pointer-events-none absolute inset-0 text-ink-2" width={width} height={height} aria-hidden="true">
      {[0, 1, 2].map((d) => {
        const edge = lowestEdge(d, camera.up, low, high, place);
        const [a, b] = edge;
        const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
        if (length < 24) return null;
        const [mx, my] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
        const [nx, ny] = [(a[1] - b[1]) / length, (b[0] - a[0]) / length];
        const out = nx * (mx - width / 2) + ny * (my - height / 2) < 0 ? -1 : 1;
        const shift = (q: readonly [number, number], by: number) => [q[0] + out * by * nx, q[1] + out * by * ny] as const;
        const words = `${"xyz"[d]} ${significant(high[d] - low[d], 4)} ${unit}`;
        const [p, q, t] = [shift(a, 12), shift(b, 12), shift([mx, my], Math.abs(nx) > 0.6 ? 18 : 24)];
        return (
          <g key={d} stroke="currentColor" fill="none" strokeWidth="1">
            <path d={`M${shift(a, 4).join()}L${shift(a, 16).join()}M${shift(b, 4).join()}L${shift(b, 16).join()}M${p.join()}L${q.join()}`} />
            <text
              x={nx * out > 0 && Math.abs(nx) > 0.6 ? Math.min(t[0], width - LETTER * words.length) : t[0]}
              y={t[1]}
              stroke="none"
              fill="currentColor"
              fontSize="11"
              textAnchor={Math.abs(nx) > 0.6 ? (out * nx > 0 ? "start" : "end") : "middle"}
              dominantBaseline="middle"
              className="font-mono"
            >
              {words}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

type Place = readonly [number, number];

/** Of the four edges along an axis the lowest in the picture; of those that stand upright the one farthest to the right. */
function lowestEdge(
  d: number,
  up: number,
  low: readonly number[],
  high: readonly number[],
  place: (x: readonly number[]) => Place,
): readonly [Place, Place] {
  const [u, v] = [(d + 1) % 3, (d + 2) % 3];
  const edges = [0, 1].flatMap((i) =>
    [0, 1].map((j) => {
      const from = [0, 0, 0];
      from[d] = low[d];
      from[u] = i ? high[u] : low[u];
      from[v] = j ? high[v] : low[v];
      const to = [...from];
      to[d] = high[d];
      return [place(from), place(to)] as const;
    }),
  );
  const score = ([a, b]: readonly [Place, Place]) => (d === up ? a[0] + b[0] : a[1] + b[1]);
  return edges.reduce((best, e) => (score(e) > score(best) ? e : best));
}
