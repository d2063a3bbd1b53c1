"use client";

import { type PointerEvent, useEffect, useMemo, useRef } from "react";
import type { SceneAsked } from "@/core/drawing/sceneAsked";
import type { SpaceScene } from "@/core/drawing/spaceScene";
import type { ArrayKey, VolumeLook } from "@/core/drawing/volume";
import { count } from "@/core/formatting/number";
import { saveFile } from "../../charts/saveFile";
import { useAnswer } from "../../engine/useAnswer";
import { Dimensions } from "../Dimensions";
import type { Camera, Colours } from "../scene";
import { cameraKeys, pictureOf, useDrag, useStage, useWheel } from "../viewing";
import { askVolume } from "./askVolume";
import type { Result } from "./useResults";
import { type ShownOf, VolumeScene } from "./volumeScene";

type Place = readonly [number, number, number];

interface Props {
  readonly result: Result;
  readonly asked: SceneAsked;
  /** ends of the colours all views share, where they do */
  readonly shared: readonly [number, number] | undefined;
  readonly layers: ShownOf & { readonly size: boolean };
  readonly camera: Camera;
  readonly setCamera: (of: (c: Camera) => Camera) => void;
  readonly marks: readonly (readonly Place[])[];
  readonly pick: (place: Place) => void;
  readonly found: (scene: SpaceScene | undefined) => void;
  readonly width: number;
  readonly height: number;
}

const VOLUME = (at: HTMLCanvasElement, colours: Colours) => new VolumeScene(at, colours);

/** One result as it is asked for, with what was done to show it. */
export function VolumePane(p: Props) {
  const { result, asked, shared } = p;
  const { wish, lacking } = useMemo(() => fitting(shared ? { ...asked, range: shared } : asked, result.look), [asked, shared, result.look]);
  const loaded = result.look !== undefined;
  const { value, mistake, busy } = useAnswer(loaded ? () => askVolume("scene", { id: result.id, asked: wish }) : undefined, [
    result.id,
    result.edition,
    loaded,
    wish,
  ]);
  const { found } = p;
  useEffect(() => found(value), [value, found]);
  const said = result.mistake ?? mistake;
  return (
    <figure className="min-w-0" aria-label={`View of ${result.name}`} data-testid="volume-view">
      <figcaption className="flex min-h-5 items-baseline gap-2 text-[12px]">
        <b className="truncate font-[620]">{result.name}</b>
        {result.moments.length > 1 ? (
          <span className="font-mono text-[11.5px] text-ink-2">
            {result.moments[result.at].time === undefined ? `${result.at + 1} of ${result.moments.length}` : `t ${result.moments[result.at].time}`}
          </span>
        ) : null}
        <span className="text-[11.5px] text-ink-3" aria-live="polite">
          {result.busy ?? (busy && !value ? "Laying it out …" : "")}
        </span>
      </figcaption>
      {said ? <p className="mistake">{said}</p> : null}
      {result.picture ? (
        <div className="paper border border-line bg-sheet" style={{ width: p.width, height: p.height }}>
          {/* biome-ignore lint/performance/noImgElement: it lies in the page, nothing is fetched or made smaller */}
          <img src={result.picture} alt={result.name} className="h-full w-full object-contain" />
        </div>
      ) : value && result.look ? (
        <Drawn {...p} scene={value} look={result.look} />
      ) : (
        <div style={{ width: p.width, height: p.height }} className="border border-line" />
      )}
      {[...lacking, ...(value?.notes ?? [])].map((n) => (
        <p key={n} className="text-[11.5px] text-ink-2">
          {n}
        </p>
      ))}
    </figure>
  );
}

/** What is asked for without the fields this result has not, and which these are. */
function fitting(asked: SceneAsked, look: VolumeLook | undefined): { readonly wish: SceneAsked; readonly lacking: readonly string[] } {
  const { colour, keep, level, lines, arrows, ...rest } = asked;
  const lacking = new Set<string>();
  const has = (key: ArrayKey): boolean => {
    const found = look?.arrays.some((a) => a.name === key.name && a.on === key.on) ?? false;
    if (!found && look) lacking.add(`It has no field ${key.name} on ${key.on}; what shows it is left out.`);
    return found;
  };
  const wish: SceneAsked = {
    ...rest,
    ...(colour && has(colour) ? { colour } : {}),
    ...(keep && has(keep) ? { keep } : {}),
    ...(level && has(level) ? { level } : {}),
    ...(lines && has(lines.of) ? { lines } : {}),
    ...(arrows && has(arrows) ? { arrows } : {}),
  };
  return { wish, lacking: [...lacking] };
}

function Drawn({ scene: made, look, ...p }: Props & { readonly scene: SpaceScene; readonly look: VolumeLook }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { scene, mistake } = useStage(canvas, p.width, p.height, VOLUME);
  const { coloured } = made;
  const frame = useMemo(() => frameOf(look), [look]);
  const { layers, camera, marks, width, height } = p;
  useEffect(() => {
    scene?.show(made, coloured);
    scene?.draw();
  }, [scene, made, coloured]);
  useEffect(() => {
    scene?.mark(
      Float32Array.from(
        marks.flatMap((l) => l.slice(1).flatMap((q, k) => [...l[k], ...q])),
        (v, i) => (v - frame.middle[i % 3]) / frame.radius,
      ),
    );
    scene?.draw();
  }, [scene, marks, frame]);
  useEffect(() => {
    scene?.size(width, height);
    scene?.layers(layers);
    scene?.look(camera);
    scene?.draw();
  }, [scene, camera, layers, width, height]);
  const drag = useDrag(p.height, p.setCamera, (e: PointerEvent) => {
    const box = canvas.current?.getBoundingClientRect();
    if (!box || !scene) return;
    const hit = scene.hit((2 * (e.clientX - box.left)) / box.width - 1, 1 - (2 * (e.clientY - box.top)) / box.height);
    if (hit) p.pick(hit.place.map((v, d) => v * frame.radius + frame.middle[d]) as unknown as Place);
  });
  useWheel(canvas, p.setCamera);
  const keys = cameraKeys(camera, (next) => p.setCamera(() => next));
  if (mistake) return <p className="mistake">{mistake}</p>;
  return (
    <div className="group relative border border-line bg-sheet" style={{ width: p.width, height: p.height }}>
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label={`${p.result.name}, ${count(look.cells)} cells. Arrow keys turn it, with shift they move it, plus and minus zoom, 0 shows all; a press reads the values there.`}
        className="block cursor-grab touch-none"
        style={{ width: p.width, height: p.height }}
        onKeyDown={keys}
        {...drag}
      />
      {layers.size && scene ? (
        <Dimensions
          drawing={{ low: look.low, high: look.high, ...frame }}
          scene={scene}
          camera={camera}
          unit={p.result.run?.length ?? ""}
          width={p.width}
          height={p.height}
        />
      ) : null}
      <button
        type="button"
        className="link no-print absolute top-1 right-2 text-[11.5px]"
        onClick={() => void pictureOf(scene).then((b) => b && saveFile(p.result.name, "png", b, "image/png"))}
      >
        PNG
      </button>
    </div>
  );
}

/** How a place is drawn, as the scene has it. */
function frameOf({ low, high }: Pick<VolumeLook, "low" | "high">) {
  const middle = low.map((v, d) => (v + high[d]) / 2) as unknown as Place;
  return { middle, radius: Math.hypot(...high.map((v, d) => v - low[d])) / 2 || 1 };
}
