import { type FieldColors, fieldColor } from "@/core/drawing/fieldRaster";

const STEPS = 70;
const TICKS = [0, 0.25, 0.5, 0.75, 1];

interface Props {
  readonly range: readonly [number, number];
  /** how a number is written, and how the last one is, which carries the power of ten */
  readonly scale: { readonly text: (v: number) => string; readonly whole: (v: number) => string };
  readonly width: number;
  readonly colors?: FieldColors;
}

/** The colours of a field with their values. */
export function FieldLegend({ range, scale, width, colors }: Props) {
  // The power of ten stands once, at the end.
  const tick = (t: number) => (t === 1 ? scale.whole : scale.text)(range[0] + t * (range[1] - range[0]));
  return (
    <svg width={width} height="30" aria-hidden="true">
      {Array.from({ length: STEPS }, (_, k) => (
        <rect
          key={k}
          x={(k * width) / STEPS}
          y="3"
          width={width / STEPS + 0.5}
          height="9"
          fill={`rgb(${fieldColor(k / (STEPS - 1), colors).join(",")})`}
        />
      ))}
      {TICKS.map((t) => (
        <text
          key={t}
          x={t * width}
          y="25"
          fontSize="11"
          fontFamily="var(--font-mono)"
          fill="#4a5558"
          textAnchor={t === 0 ? "start" : t === 1 ? "end" : "middle"}
        >
          {tick(t)}
        </text>
      ))}
    </svg>
  );
}
