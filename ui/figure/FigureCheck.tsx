"use client";

import { SERIES } from "@/core/drawing/palette";
import { placeOf } from "@/core/figure/calibration";
import type { ReadFigure, Reference } from "@/core/records/reference";

/** The picture a yardstick was read off with its figures drawn over it: what was read stands where it was printed, or was read wrong. */
export function FigureCheck({ y, figure }: { y: Reference; figure: ReadFigure }) {
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-[12.5px] text-ink-2">
        The figure it was read off, {figure.name}, with what was read drawn over it
      </summary>
      <svg
        className="mt-2 max-h-[480px] max-w-full border border-line bg-plot"
        viewBox={viewBoxOf(figure)}
        role="img"
        aria-label={`${figure.name} with the points of ${y.name} drawn over it`}
      >
        <image href={`/api/yardsticks/${y.key}/picture`} x="-0.5" y="-0.5" />
        {y.profiles.map((p, k) => (
          <g key={p.profileKey} fill="none" stroke={SERIES[(k + 1) % SERIES.length]} strokeWidth="1.5">
            {p.abscissa.map((x, i) => {
              const [cx, cy] = placeOf(figure.calibration, [x, p.value[i]]);
              return <circle key={`${x} ${p.value[i]}`} cx={cx} cy={cy} r="4" />;
            })}
          </g>
        ))}
      </svg>
    </details>
  );
}

/** The part of the picture that holds everything that was placed, with room about it. */
function viewBoxOf({ calibration: { x, y }, places }: ReadFigure): string {
  const all = [...x.at, ...y.at, ...Object.values(places).flat()];
  const [left, top] = [0, 1].map((k) => Math.min(...all.map((p) => p[k])));
  const [right, bottom] = [0, 1].map((k) => Math.max(...all.map((p) => p[k])));
  const room = 0.12 * Math.max(right - left, bottom - top);
  return `${left - room} ${top - room} ${right - left + 2 * room} ${bottom - top + 2 * room}`;
}
