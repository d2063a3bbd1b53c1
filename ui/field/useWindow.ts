import { type RefObject, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { type Window, wholeMesh } from "@/core/drawing/cellRaster";
import type { FaceMesh } from "@/core/mesh/faceMesh";

const REST_MS = 120;
const STEP_PX = 30;
const MOST_CLOSER = 400;

const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [STEP_PX, 0],
  ArrowRight: [-STEP_PX, 0],
  ArrowUp: [0, STEP_PX],
  ArrowDown: [0, -STEP_PX],
};
const ZOOMS: Readonly<Record<string, number>> = { "+": 1 / 1.3, "-": 1.3 };

type Pointed = { readonly clientX: number; readonly clientY: number; readonly currentTarget: HTMLElement };

/** The part of a mesh that pictures of one size show: moved, zoomed by wheel and keys, and at rest a moment after the last move. */
export function useWindow(mesh: FaceMesh, w: number, h: number, canvases: readonly RefObject<HTMLCanvasElement | null>[]) {
  const home = useMemo(() => wholeMesh(mesh, w, h, 3), [mesh, w, h]);
  const [moved, setMoved] = useState<Window>();
  const view = moved ?? home;
  const place = (e: Pointed): [number, number] => {
    const box = e.currentTarget.getBoundingClientRect();
    return [view.x0 + ((e.clientX - box.left) / box.width) * w * view.pixelM, view.y0 + (1 - (e.clientY - box.top) / box.height) * h * view.pixelM];
  };
  const zoom = useCallback(
    (factor: number, at?: readonly [number, number]) =>
      setMoved((old) => {
        const v = old ?? home;
        const [x, y] = at ?? [v.x0 + (v.width / 2) * v.pixelM, v.y0 + (v.height / 2) * v.pixelM];
        const pixelM = Math.min(home.pixelM * 2, Math.max(home.pixelM / MOST_CLOSER, v.pixelM * factor));
        const real = pixelM / v.pixelM;
        return { ...v, pixelM, x0: x - (x - v.x0) * real, y0: y - (y - v.y0) * real };
      }),
    [home],
  );
  // A wheel listener of its own: the page must not scroll while the picture is zoomed.
  const latest = useRef(place);
  latest.current = place;
  useEffect(() => {
    const elements = canvases.flatMap((c) => c.current ?? []);
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const currentTarget = e.currentTarget as HTMLElement;
      zoom(e.deltaY > 0 ? 1.2 : 1 / 1.2, latest.current({ clientX: e.clientX, clientY: e.clientY, currentTarget }));
    };
    for (const element of elements) element.addEventListener("wheel", wheel, { passive: false });
    return () => {
      for (const element of elements) element.removeEventListener("wheel", wheel);
    };
  }, [zoom, canvases]);
  const shift = (from: Window, dx: number, dy: number): Window => ({ ...from, x0: from.x0 - dx * from.pixelM, y0: from.y0 + dy * from.pixelM });
  const keys = (e: React.KeyboardEvent) => {
    const way = MOVES[e.key];
    if (way) setMoved((old) => shift(old ?? home, ...way));
    else if (ZOOMS[e.key]) zoom(ZOOMS[e.key]);
    else if (e.key === "0") setMoved(undefined);
    else return;
    e.preventDefault();
  };
  return {
    view,
    resting: useResting(view, home),
    place,
    keys,
    showAll: () => setMoved(undefined),
    /** moves a window that stood when a drag began */
    drag: (from: Window, dx: number, dy: number) => setMoved(shift(from, dx, dy)),
  };
}

/** The window of the picture: follows a moment after the last move, so that moving never waits for painting; another mesh or size at once. */
function useResting(view: Window, home: Window): Window {
  const [settled, setSettled] = useState({ view, home });
  useEffect(() => {
    const later = setTimeout(() => setSettled({ view, home }), REST_MS);
    return () => clearTimeout(later);
  }, [view, home]);
  return settled.home === home ? settled.view : view;
}
