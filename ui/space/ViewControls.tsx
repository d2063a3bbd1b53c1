"use client";

import { AXES } from "@/core/dataset/vector";
import { sidesOf } from "./camera";
import { type Camera, FIRST_LOOK } from "./scene";

/** What of a picture in space is shown beside its faces. */
export interface ShownLayers {
  readonly mesh: boolean;
  readonly outline: boolean;
  readonly size: boolean;
}

const LAYER_WORDS = { mesh: "mesh", outline: "sharp edges", size: "dimensions" } as const;

/** What is shown, where one looks from, and which axis is up: of every picture in space. */
export function ViewControls({
  camera,
  setCamera,
  layers,
  setLayers,
}: {
  readonly camera: Camera;
  readonly setCamera: (c: Camera) => void;
  readonly layers: ShownLayers;
  readonly setLayers: (l: ShownLayers) => void;
}) {
  return (
    <>
      {(["mesh", "outline", "size"] as const).map((key) => (
        <label key={key} className="flex items-center gap-1">
          <input type="checkbox" checked={layers[key]} onChange={() => setLayers({ ...layers, [key]: !layers[key] })} /> {LAYER_WORDS[key]}
        </label>
      ))}
      {sidesOf(camera.up).map(([words, side]) => (
        <button key={words} type="button" className="link" onClick={() => setCamera({ ...camera, ...side })}>
          {words}
        </button>
      ))}
      <button type="button" className="link" onClick={() => setCamera({ ...FIRST_LOOK, up: camera.up })}>
        askew, all of it
      </button>
      <label className="flex items-baseline gap-1">
        up
        <select
          className="field h-6! w-12 py-0!"
          value={camera.up}
          onChange={(e) => setCamera({ ...camera, up: Number(e.target.value) as Camera["up"] })}
        >
          {AXES.map((axis, k) => (
            <option key={axis} value={k}>
              {axis}
            </option>
          ))}
        </select>
      </label>
    </>
  );
}
