"use client";

import { type KeyboardEvent, type MouseEvent, useEffect, useRef, useState } from "react";
import { INK, SERIES } from "@/core/drawing/palette";
import type { Pixel } from "@/core/figure/calibration";
import type { OpenPicture } from "./openPicture";
import { type AxisPlace, type Figure, type FigureState, MODES } from "./useFigure";

/** screen pixels the whole picture takes at most */
const WIDE = 610;
const TALL = 430;
/** screen pixels a pixel of the picture takes under the magnifier, and its size */
const MAGNIFIED = 8;
const GLASS = 152;

const STEPS: Readonly<Record<string, Pixel>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** The picture with what was read off it drawn over; clicked, or moved over by the arrow keys, with a magnifier at the cursor. */
export function PicturePane({ figure, open, state }: { figure: Figure; open: OpenPicture; state: FigureState }) {
  const { width, height } = open.picture;
  const [zoom, setZoom] = useState(1);
  const [cursor, setCursor] = useState<Pixel>([Math.round(width / 2), Math.round(height / 2)]);
  const canvas = useRef<HTMLCanvasElement>(null);
  const scale = Math.min(1, WIDE / width, TALL / height) * zoom;
  useEffect(() => {
    canvas.current?.getContext("2d")?.drawImage(open.canvas, 0, 0);
  }, [open]);
  const placeOf = (e: MouseEvent): Pixel => {
    const box = e.currentTarget.getBoundingClientRect();
    // The middle of a pixel is a whole number.
    return [(e.clientX - box.left) / scale - 0.5, (e.clientY - box.top) / scale - 0.5];
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const step = STEPS[e.key];
    if (step) {
      e.preventDefault();
      const by = e.shiftKey ? 10 : e.altKey ? 0.25 : 1;
      const within = (v: number, most: number) => Math.min(most - 1, Math.max(0, v));
      setCursor([within(cursor[0] + by * step[0], width), within(cursor[1] + by * step[1], height)]);
    } else if (e.key === "Enter" || e.key === " ") {
      e.preventDefault();
      figure.act(cursor);
    } else if (e.key === "Backspace" && figure.undo) {
      e.preventDefault();
      figure.undo();
    }
  };
  const mode = MODES.find(([m]) => m === figure.mode)?.[1];
  return (
    <div className="flex items-start gap-3">
      <div className="min-w-0">
        <div className="max-h-[440px] w-fit max-w-[620px] overflow-auto border border-line bg-plot">
          <div
            role="application"
            tabIndex={0}
            aria-label={`The picture; a press places: ${mode}. Arrow keys move the cursor by a pixel, with shift by ten, with alt by a quarter; Enter places, Backspace takes back.`}
            className="relative cursor-crosshair"
            style={{ width: width * scale, height: height * scale }}
            onMouseMove={(e) => setCursor(placeOf(e))}
            onClick={(e) => figure.act(placeOf(e))}
            onKeyDown={onKeyDown}
          >
            <canvas ref={canvas} width={width} height={height} style={{ width: width * scale, height: height * scale }} />
            <Overlay state={state} cursor={cursor} width={width} height={height} scale={scale} />
          </div>
        </div>
        <p className="mt-1 flex items-center gap-3 text-[12px] text-ink-2">
          {[1, 2, 4].map((z) => (
            <button key={z} type="button" className="link" aria-pressed={zoom === z} onClick={() => setZoom(z)}>
              {z === 1 ? "whole" : `${z} times`}
            </button>
          ))}
          <span className="font-mono">
            {cursor[0].toFixed(1)}, {cursor[1].toFixed(1)}
          </span>
          <span role="status">{figure.said}</span>
        </p>
      </div>
      <Magnifier open={open} at={cursor} />
    </div>
  );
}

/** The surroundings of the cursor, eight times as large. */
function Magnifier({ open, at }: { open: OpenPicture; at: Pixel }) {
  const own = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = own.current?.getContext("2d");
    if (!context) return;
    const half = GLASS / MAGNIFIED / 2;
    context.imageSmoothingEnabled = false;
    context.fillStyle = "#fff";
    context.fillRect(0, 0, GLASS, GLASS);
    context.drawImage(open.canvas, at[0] + 0.5 - half, at[1] + 0.5 - half, 2 * half, 2 * half, 0, 0, GLASS, GLASS);
    context.strokeStyle = INK.pointer;
    context.beginPath();
    for (const [x0, y0, x1, y1] of [
      [GLASS / 2, 0, GLASS / 2, GLASS],
      [0, GLASS / 2, GLASS, GLASS / 2],
    ]) {
      context.moveTo(x0, y0);
      context.lineTo(x1, y1);
    }
    context.stroke();
  }, [open, at]);
  return <canvas ref={own} width={GLASS} height={GLASS} className="shrink-0 border border-line" aria-label="Magnifier" />;
}

interface OverlayProps {
  readonly state: FigureState;
  readonly cursor: Pixel;
  readonly width: number;
  readonly height: number;
  readonly scale: number;
}

/** What was placed so far: places of the calibration, the cut, points and bars of every curve, and the cursor. */
function Overlay({ state, cursor, width, height, scale }: OverlayProps) {
  const at = ([x, y]: Pixel): Pixel => [(x + 0.5) * scale, (y + 0.5) * scale];
  const [left, top, right, bottom] = state.crop;
  const [a, b] = [at([left, top]), at([right, bottom])];
  const axis = Object.entries(state.places) as [AxisPlace, Pixel][];
  return (
    <svg className="pointer-events-none absolute inset-0" width={width * scale} height={height * scale} aria-hidden="true">
      <path d={`M${a[0]} ${a[1]}H${b[0]}V${b[1]}H${a[0]}Z`} fill="none" stroke={INK.ink3} strokeDasharray="4 4" />
      {axis.map(([name, p]) => (
        <g key={name} stroke={INK.blue} fill={INK.blue}>
          <path d={`M${at(p)[0] - 7} ${at(p)[1]}h14M${at(p)[0]} ${at(p)[1] - 7}v14`} />
          <text x={at(p)[0] + 6} y={at(p)[1] - 6} fontSize="12" stroke="none">
            {name}
          </text>
        </g>
      ))}
      {state.curves.map((c, k) => (
        <g key={c.name} stroke={SERIES[(k + 1) % SERIES.length]} fill="none" strokeWidth={k === state.current ? 1.8 : 1}>
          {c.places.map((p) => (
            <g key={p.at.join()}>
              <circle cx={at(p.at)[0]} cy={at(p.at)[1]} r="3.5" />
              {p.bar ? <path d={`M${at(p.at).join(" ")}L${at(p.bar).join(" ")}`} /> : null}
            </g>
          ))}
        </g>
      ))}
      <path
        d={`M${at(cursor)[0]} 0V${height * scale}M0 ${at(cursor)[1]}H${width * scale}`}
        stroke={INK.pointer}
        strokeWidth="0.6"
        strokeDasharray="2 3"
      />
    </svg>
  );
}
