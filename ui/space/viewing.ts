"use client";

import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { afterDrag, afterKey, afterWheel } from "./camera";
import type { Camera, Colours, Stage } from "./scene";

/** A colour of the scheme at hand, as the page has it at an element. */
function colourOf(at: HTMLElement, name: string): number {
  const probe = document.createElement("span");
  probe.style.color = `var(${name})`;
  at.parentElement?.append(probe);
  const [r = 0, g = 0, b = 0] = (getComputedStyle(probe).color.match(/[\d.]+/g) ?? []).map(Number);
  probe.remove();
  return (r << 16) | (g << 8) | b;
}

/** Lines of what is saved: on paper, whatever the scheme. */
const ON_PAPER = { ink: 0x1d2427, pointer: 0xb5412b };

/** What draws on a canvas, once it is there. @param make outside the component, or it is made anew at each draw */
export function useStage<S extends Stage>(
  canvas: React.RefObject<HTMLCanvasElement | null>,
  width: number,
  height: number,
  make: (at: HTMLCanvasElement, colours: Colours) => S,
) {
  const [scene, setScene] = useState<S>();
  const [mistake, setMistake] = useState("");
  useEffect(() => {
    if (!canvas.current) return undefined;
    try {
      const own = make(canvas.current, {
        ink: colourOf(canvas.current, "--color-ink"),
        pointer: colourOf(canvas.current, "--color-pointer"),
      });
      setScene(own);
      return () => own.end();
    } catch {
      setMistake("This browser cannot draw in space (it has no WebGL). Everything else is at hand.");
      return undefined;
    }
  }, [canvas, make]);
  useEffect(() => scene?.size(width, height), [scene, width, height]);
  return { scene, mistake };
}

/** The picture on white paper, as documents need it. */
export async function pictureOf(scene: Stage | undefined): Promise<Blob | null> {
  scene?.drawNow(ON_PAPER);
  const paper = document.createElement("canvas");
  const context = paper.getContext("2d");
  if (!scene || !context) return null;
  [paper.width, paper.height] = [scene.canvas.width, scene.canvas.height];
  context.fillStyle = "#fff";
  context.fillRect(0, 0, paper.width, paper.height);
  context.drawImage(scene.canvas, 0, 0);
  scene.draw();
  return new Promise((resolve) => paper.toBlob(resolve, "image/png"));
}

/** Dragging turns; with shift, or another button, it moves. A press that did not drag picks. */
export function useDrag(height: number, setCamera: (of: (c: Camera) => Camera) => void, pick: (e: PointerEvent) => void) {
  const last = useRef<{ x: number; y: number; moved: number }>(undefined);
  return {
    onPointerDown: (e: PointerEvent<HTMLCanvasElement>) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      last.current = { x: e.clientX, y: e.clientY, moved: 0 };
    },
    onPointerMove: (e: PointerEvent<HTMLCanvasElement>) => {
      const from = last.current;
      if (!from || !e.buttons) return;
      const [dx, dy] = [e.clientX - from.x, e.clientY - from.y];
      last.current = { x: e.clientX, y: e.clientY, moved: from.moved + Math.abs(dx) + Math.abs(dy) };
      const shifts = e.shiftKey || e.buttons !== 1;
      setCamera((c) => afterDrag(c, (2 * dx) / height, (2 * dy) / height, shifts));
    },
    onPointerUp: (e: PointerEvent<HTMLCanvasElement>) => {
      const from = last.current;
      last.current = undefined;
      if (from && from.moved < 4) pick(e);
    },
    onContextMenu: (e: { preventDefault: () => void }) => e.preventDefault(),
  };
}

/** Keys of the camera are its own; any other goes on to the page. */
export const cameraKeys = (camera: Camera, setCamera: (next: Camera) => void) => (e: KeyboardEvent) => {
  const next = afterKey(camera, e.key, e.shiftKey);
  if (!next) return;
  e.preventDefault();
  e.stopPropagation();
  setCamera(next);
};

/** The wheel zooms and does not move the page: that has to be said to the browser otherwise than React does. */
export function useWheel(canvas: React.RefObject<HTMLCanvasElement | null>, setCamera: (of: (c: Camera) => Camera) => void): void {
  useEffect(() => {
    const own = canvas.current;
    const turn = (e: WheelEvent) => {
      e.preventDefault();
      setCamera((c) => afterWheel(c, e.deltaY));
    };
    own?.addEventListener("wheel", turn, { passive: false });
    return () => own?.removeEventListener("wheel", turn);
  }, [canvas, setCamera]);
}
