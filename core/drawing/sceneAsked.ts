import type { Plane } from "../dataset/cutGrid.ts";
import type { Vector } from "../dataset/vector.ts";
import type { ArrayKey } from "./volume.ts";

/** Where lines begin, in the grid's unit. */
export type Seeds =
  | { readonly from: "point"; readonly at: Vector }
  | { readonly from: "line"; readonly at: Vector; readonly to: Vector; readonly count: number }
  /** spread over the first cut */
  | { readonly from: "cut"; readonly count: number };

/** What of a volume is to be drawn. */
export interface SceneAsked {
  /** what colours show; without it the outside is plain */
  readonly colour?: ArrayKey & { readonly component: number | "size" };
  /** values of cells brought to points, so that colours are even between them */
  readonly smooth: boolean;
  /** over what the colours reach: what is seen, all there is, or values that were typed */
  readonly range: "seen" | "whole" | readonly [number, number];
  readonly outside: "whole" | "outline";
  /** only cells where a field lies between two values; the outside is then that of these cells */
  readonly keep?: ArrayKey & { readonly component: number | "size"; readonly low: number; readonly high: number };
  readonly planes: readonly Plane[];
  /** number of the plane above which everything is cut away */
  readonly clip?: number;
  readonly level?: ArrayKey & { readonly component: number | "size"; readonly value: number };
  readonly lines?: { readonly of: ArrayKey; readonly seeds: Seeds; readonly sense: "with" | "against" | "both" };
  /** arrows of a vector on the cuts */
  readonly arrows?: ArrayKey;
  /** lines of equal value on what is coloured, so many */
  readonly equal: number;
  /** a half model with its mirror image beside it, for looking: across an axis, 0 is x, in the grid's unit */
  readonly mirror?: { readonly axis: 0 | 1 | 2; readonly at: number };
}
