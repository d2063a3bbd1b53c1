"use client";

import { fieldRange } from "@/core/drawing/fieldRaster";
import { significant } from "@/core/formatting/number";
import { resolve } from "@/core/formatting/scale";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import { ask } from "../engine/engine";
import { useAnswer } from "../engine/useAnswer";
import { CsvButton } from "../tables/CsvButton";

const SAMPLES = 101;
const HEIGHT = 110;

type Place = readonly [number, number];

/** Values of a field along a straight line, drawn and as CSV. */
export function LineSample(p: { mesh: FaceMesh; values: Float64Array; a: Place; b: Place; name: string; unit: string; width: number }) {
  const { mesh, values, a, b } = p;
  const { value: found, mistake } = useAnswer(() => ask("sample", { mesh, values, from: a, to: b, count: SAMPLES }), [mesh, values, a, b]);
  if (mistake) return <p className="mistake mt-2">{mistake}</p>;
  return found ? <Drawn {...p} found={found} length={Math.hypot(b[0] - a[0], b[1] - a[1])} /> : null;
}

function Drawn(p: { found: Float64Array; length: number; name: string; unit: string; width: number }) {
  const { found, length } = p;
  const at = Array.from(found, (_, k) => (length * k) / (SAMPLES - 1));
  const [low, high] = fieldRange(found);
  const show = resolve([low, high], 2);
  const x = (s: number) => 34 + (s / (length || 1)) * (p.width - 40);
  const y = (v: number) => 8 + (1 - (v - low) / (high - low || 1)) * (HEIGHT - 30);
  return (
    <section className="mt-2" aria-label="Values along the line">
      <div className="flex justify-between text-[11.5px]">
        <span>
          {p.name} along the line, {significant(length, 3)} m
        </span>
        <CsvButton name="line" header={["distance, m", `${p.name}, ${p.unit}`]} rows={at.map((s, k) => [s, found[k]])} />
      </div>
      <svg width={p.width} height={HEIGHT} role="img" aria-label={`${p.name} along the line, from ${show(low)} to ${show(high)} ${p.unit}`}>
        <path
          d={at.map((s, k) => `${k ? "L" : "M"}${x(s).toFixed(1)} ${y(found[k]).toFixed(1)}`).join("")}
          stroke="#27506B"
          fill="none"
          strokeWidth="1.4"
        />
        <path d={`M34 8V${HEIGHT - 22}H${p.width - 4}`} stroke="#9aa19f" fill="none" />
        {[low, high].map((v) => (
          <text key={v} x="31" y={y(v) + 3} fontSize="11" textAnchor="end" fontFamily="var(--font-mono)" fill="#4a5558">
            {show(v)}
          </text>
        ))}
      </svg>
    </section>
  );
}
