import { fieldColor } from "@/core/drawing/fieldRaster";
import type { SurfaceDrawing } from "@/core/drawing/surfaceDrawing";
import type { Camera, SurfaceScene } from "./scene";

/** A point on the surface with a value on the scale of its colours. */
export interface Dot {
  readonly at: readonly [number, number, number];
  /** out of the body */
  readonly facing: readonly [number, number, number];
  readonly value: number;
  readonly label: string;
}

interface Props {
  readonly dots: readonly Dot[];
  readonly drawing: SurfaceDrawing;
  readonly scene: SurfaceScene;
  readonly camera: Camera;
  readonly width: number;
  readonly height: number;
}

/** Points that face the eye, in the colour of what was measured there; the far side's are left out. */
export function Dots({ dots, drawing: { middle, radius, range, scheme }, scene, camera, width, height }: Props) {
  if (!range) return null;
  scene.look(camera);
  const [from, to] = range;
  const seen = dots.filter((d) => scene.faces(d.facing));
  return (
    <svg className="pointer-events-none absolute inset-0" width={width} height={height} aria-hidden="true">
      {seen.map((d) => {
        const [u, v] = scene.project(d.at.map((c, k) => (c - middle[k]) / radius) as unknown as [number, number, number]);
        const colour = fieldColor(to > from ? (d.value - from) / (to - from) : 0.5, scheme);
        return (
          <circle
            key={d.label}
            cx={((u + 1) * width) / 2}
            cy={((1 - v) * height) / 2}
            r="5"
            fill={`rgb(${colour.join(",")})`}
            stroke="var(--color-ink)"
            strokeWidth="1.2"
          />
        );
      })}
    </svg>
  );
}
