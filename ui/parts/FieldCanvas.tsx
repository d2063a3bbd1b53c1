"use client";

import { useEffect, useMemo, useRef, useState } from "react";
import { fieldColor, fieldRange, rasterField } from "@/core/drawing/fieldRaster";
import { significant, tickDigits } from "@/core/formatting/number";
import { gridLines } from "@/core/mesh/grading";
import { benchProblem } from "@/core/problems/catalogue";
import type { MeshSpec, RunSettings } from "@/core/problems/runSettings";

/** Speed on the cells of a bench run, values as they are; what lies under the cursor in figures. */
export function FieldCanvas({ settings, speed, note }: { settings: RunSettings; speed: Float32Array | undefined; note: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [under, setUnder] = useState<{ x: number; y: number; speed: number; i: number; j: number }>();
  const grid = useMemo(() => {
    const spec = benchProblem(settings.problemId ?? "").rectangle(settings.parameters, settings.mesh as MeshSpec);
    return { x: gridLines(spec.lengthM, spec.nx, spec.gradingX), y: gridLines(spec.heightM, spec.ny, spec.gradingY) };
  }, [settings]);
  const length = grid.x[grid.x.length - 1];
  const height = grid.y[grid.y.length - 1];
  const w = 340;
  const h = Math.round(Math.max(60, Math.min(340, (w * height) / length)));
  const fits = speed && speed.length === (grid.x.length - 1) * (grid.y.length - 1) ? speed : undefined;
  const range = useMemo(() => (fits ? fieldRange(fits) : ([0, 1] as [number, number])), [fits]);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!context || !fits) return;
    const rgb = rasterField({ xLinesM: grid.x, yLinesM: grid.y, values: fits }, w, h, range);
    const image = context.createImageData(w, h);
    for (let i = 0, k = 0; i < rgb.length; i += 3, k += 4) image.data.set([rgb[i], rgb[i + 1], rgb[i + 2], 255], k);
    context.putImageData(image, 0, 0);
  }, [fits, grid, h, range]);
  const probe = (e: React.MouseEvent<HTMLCanvasElement>) => {
    if (!fits) return;
    const box = e.currentTarget.getBoundingClientRect();
    const x = ((e.clientX - box.left) / box.width) * length;
    const y = (1 - (e.clientY - box.top) / box.height) * height;
    const find = (lines: Float64Array, v: number) => Math.max(0, Math.min(lines.length - 2, lines.findIndex((l) => l > v) - 1));
    const i = find(grid.x, x);
    const j = find(grid.y, y);
    setUnder({ x, y, i, j, speed: fits[j * (grid.x.length - 1) + i] });
  };
  const save = () => {
    const a = document.createElement("a");
    a.href = canvas.current?.toDataURL("image/png") ?? "";
    a.download = "speed.png";
    a.click();
  };
  const digits = tickDigits((range[1] - range[0]) / 4 || 1) + 1;
  const small = range[1] < 1e-3;
  return (
    <div>
      <h2>
        Speed <span className="text-[11.5px] font-normal text-ink-3">cell values, not smoothed; {note}</span>
      </h2>
      <canvas
        ref={canvas}
        width={w}
        height={h}
        className="mt-1.5 border border-[#b9bdba] [image-rendering:pixelated]"
        onMouseMove={probe}
        onMouseLeave={() => setUnder(undefined)}
        role="img"
        aria-label={`Speed from ${significant(range[0], 3)} to ${significant(range[1], 3)} metres a second`}
      />
      <svg width={w} height="34" aria-hidden="true">
        {Array.from({ length: 68 }, (_, k) => (
          <rect key={k} x={(k * w) / 68} y="4" width={w / 68 + 0.5} height="10" fill={`rgb(${fieldColor(k / 67).join(",")})`} />
        ))}
        {[0, 0.25, 0.5, 0.75, 1].map((t) => (
          <text
            key={t}
            x={t * w}
            y="28"
            fontSize="10.5"
            fontFamily="var(--font-mono)"
            fill="#4a5558"
            textAnchor={t === 0 ? "start" : t === 1 ? "end" : "middle"}
          >
            {small ? significant(range[0] + t * (range[1] - range[0]), 2) : (range[0] + t * (range[1] - range[0])).toFixed(Math.min(6, digits))}
          </text>
        ))}
      </svg>
      <div className="flex items-start justify-between text-[11.5px] text-ink-2">
        <p className="font-mono">
          {under
            ? `x ${significant(under.x, 3)}  y ${significant(under.y, 3)} m  cell ${under.i}·${under.j}  ${significant(under.speed, 4)} m/s`
            : "m/s"}
        </p>
        {fits ? (
          <button type="button" className="link no-print" onClick={save}>
            PNG
          </button>
        ) : null}
      </div>
    </div>
  );
}
