import { clipPolygons } from "../dataset/clipPolygons.ts";
import { cutGrid, NoCut, type Plane, planeWords } from "../dataset/cutGrid.ts";
import type { Grid, GridArray } from "../dataset/grid.ts";
import { isoSurface } from "../dataset/isoSurface.ts";
import type { SceneAsked } from "./sceneAsked.ts";
import { entriesInCells, entryOf, type Volume } from "./volume.ts";

/** Polygons that are drawn alike. */
export interface Layer {
  readonly what: "outside" | "cut" | "level";
  /** which cut it is */
  readonly number: number;
  readonly grid: Grid;
}

/** The field that is shown, on the points or the cells of what is drawn, under one name. */
const SHOWN = "shown";

/** A grid with no other field than the one that is shown, of one component. */
function carrying(volume: Volume, { colour, smooth }: SceneAsked): Pick<Grid, "onPoints" | "onCells"> {
  if (!colour) return { onPoints: [], onCells: [] };
  const onPoints = colour.on === "points" || smooth;
  const array = onPoints ? volume.onPoints(colour) : volume.find(colour);
  const values = Float64Array.from({ length: array.values.length / array.components }, (_, k) => entryOf(array, k, colour.component));
  const shown: GridArray = { name: SHOWN, components: 1, values };
  return onPoints ? { onPoints: [shown], onCells: [] } : { onPoints: [], onCells: [shown] };
}

/** What is drawn of a volume, each layer a grid of polygons carrying the field that is shown. */
export function layersOf(volume: Volume, asked: SceneAsked, notes: string[]): Layer[] {
  const fields = carrying(volume, asked);
  const kept = asked.keep && keptCells(volume, asked.keep);
  const grid: Grid = { ...volume.grid, ...fields, notes: [], ...(kept ? { kinds: volume.grid.kinds.map((k, c) => (kept[c] ? k : LEFT_OUT)) } : {}) };
  if (kept && asked.keep) notes.push(keptWords(volume, asked.keep, kept));
  const layers: Layer[] = [];
  const clip = asked.clip === undefined ? undefined : asked.planes[asked.clip];
  const keep = (what: Layer["what"], number: number, own: Grid, clipped: boolean) => {
    const left = clip && clipped ? clipPolygons(own, aboveOf(own, clip)).grid : own;
    if (left.kinds.length) layers.push({ what, number, grid: left });
  };
  if (asked.outside === "whole") {
    const { skin, skinOf, skinPoint } = kept ? volume.skinAround(kept) : volume;
    const onCells = fields.onCells.map((a) => ({ ...a, values: Float64Array.from(skinOf, (c) => a.values[c]) }));
    const onPoints = fields.onPoints.map((a) => ({ ...a, values: Float64Array.from(skinPoint, (q) => a.values[q]) }));
    keep("outside", 0, { ...skin, onPoints, onCells }, true);
  }
  asked.planes.forEach((plane, k) => {
    const cut = tried(() => cutGrid(grid, plane, volume.tree), notes);
    if (!cut) return;
    notes.push(`Cut ${k + 1} at ${planeWords(plane)}: ${cut.kinds.length} cells.`);
    keep("cut", k, cut, k !== asked.clip);
  });
  if (asked.level) {
    const { level } = asked;
    const array = volume.onPoints(level);
    const values = Float64Array.from({ length: array.values.length / array.components }, (_, k) => entryOf(array, k, level.component));
    const cut = tried(() => isoSurface(grid, volume.tree, values, level.value, level.name), notes);
    if (cut) {
      notes.push(
        `Surface of ${level.name} ${level.value}${level.on === "cells" ? ", its cell values brought to the points" : ""}: ${cut.kinds.length} polygons.`,
      );
      keep("level", 0, cut, true);
    }
  }
  return layers;
}

/** Kind that is no cell in space: such cells are passed over. */
const LEFT_OUT = 1;

/** Which cells are kept: values on points count as the mean of the cell's corners. */
const keptCells = (volume: Volume, keep: NonNullable<SceneAsked["keep"]>): Uint8Array =>
  Uint8Array.from(entriesInCells(volume, keep), (v) => (v >= keep.low && v <= keep.high ? 1 : 0));

function keptWords(volume: Volume, { name, on, low, high }: NonNullable<SceneAsked["keep"]>, kept: Uint8Array): string {
  const count = kept.reduce((n, k) => n + k, 0);
  return `${count} of ${volume.grid.kinds.length} cells have ${name}${on === "points" ? ", as the mean of their corners," : ""} from ${low} to ${high}.`;
}

const aboveOf =
  ({ points }: Grid, { normal, through }: Plane) =>
  (q: number): number =>
    normal[0] * (points[3 * q] - through[0]) + normal[1] * (points[3 * q + 1] - through[1]) + normal[2] * (points[3 * q + 2] - through[2]);

/** The field that is shown, on the points and on the cells of a layer. */
export const fieldOn = ({ onPoints, onCells }: Grid): readonly [GridArray | undefined, GridArray | undefined] => [
  onPoints.find((a) => a.name === SHOWN),
  onCells.find((a) => a.name === SHOWN),
];

/** What cannot be cut is said and left out. */
export function tried(make: () => Grid, notes: string[]): Grid | undefined {
  try {
    return make();
  } catch (error) {
    if (!(error instanceof NoCut)) throw error;
    notes.push(error.message);
    return undefined;
  }
}
