"use client";

import { useRef, useState } from "react";

export interface Handle {
  readonly label: string;
  /** on the abscissa */
  readonly at: number;
  /** told once the handle is let go */
  readonly onSet: (at: number) => void;
}

/** left and right of the plot within its figure, px: as HistoryChart lays it out */
const LEFT = 74;
const RIGHT = 20;

/** A vertical line on a chart that is dragged, or moved with the arrow keys. */
export function ChartHandle({ handle, from, to, height }: { handle: Handle; from: number; to: number; height: number }) {
  const own = useRef<HTMLDivElement>(null);
  const [moved, setMoved] = useState<number>();
  const at = Math.min(to, Math.max(from, moved ?? handle.at));
  const share = to > from ? (at - from) / (to - from) : 0;
  const placeOf = (clientX: number) => {
    const box = own.current?.parentElement?.getBoundingClientRect();
    if (!box) return at;
    return from + Math.min(1, Math.max(0, (clientX - box.left - LEFT) / (box.width - LEFT - RIGHT))) * (to - from);
  };
  const done = () => {
    if (moved !== undefined) handle.onSet(moved);
    setMoved(undefined);
  };
  return (
    <div
      ref={own}
      role="slider"
      tabIndex={0}
      aria-label={handle.label}
      aria-valuemin={from}
      aria-valuemax={to}
      aria-valuenow={at}
      title={`${handle.label}: drag, or use the arrow keys`}
      className="group absolute top-0 z-10 w-[18px] -translate-x-1/2 cursor-ew-resize touch-none"
      style={{ left: `calc(${LEFT}px + (100% - ${LEFT + RIGHT}px) * ${share})`, height: height - 28 }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        setMoved(placeOf(e.clientX));
      }}
      onPointerMove={(e) => moved !== undefined && setMoved(placeOf(e.clientX))}
      onPointerUp={done}
      onKeyDown={(e) => {
        const step = (e.shiftKey ? 0.1 : 0.01) * (to - from);
        const way = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (way === undefined) return;
        e.preventDefault();
        setMoved(Math.min(to, Math.max(from, at + way * step)));
      }}
      onKeyUp={(e) => (e.key === "ArrowLeft" || e.key === "ArrowRight") && done()}
      onBlur={done}
    >
      <span className="absolute inset-y-0 left-1/2 w-px bg-blue" />
      <span className="absolute -top-1 left-1/2 h-2.5 w-2.5 -translate-x-1/2 rotate-45 border border-blue bg-sheet group-focus:bg-blue" />
      <span className={`absolute top-0 whitespace-nowrap bg-sheet/90 px-1 text-[11px] text-blue ${share > 0.7 ? "right-4" : "left-4"}`}>
        {handle.label}
      </span>
    </div>
  );
}
