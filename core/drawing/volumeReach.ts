import { plainName, withUnit } from "../intake/gridFields.ts";
import { aroundGrid } from "../monitors/reach/around.ts";
import { departureFrom, type Reach, reachOfDisturbance } from "../monitors/reach/reach.ts";
import type { Made } from "../monitors/space/said.ts";
import { type ArrayKey, entriesInCells, type Volume } from "./volume.ts";

export interface ReachAsked {
  readonly of: ArrayKey & { readonly component: number | "size" };
  readonly unit: string;
  /** value far away, and departure from it that counts as none, in the field's unit */
  readonly free: number;
  readonly limit: number;
  /** boundary that is the body, `HOLES` or `OFF_BOX` */
  readonly body: string;
  /** metres of the file's unit of length */
  readonly unitM: number;
}

/**
 * How far a disturbance reaches in a volume, and the departure as a field of its own, so that the surface where it is at the limit can be looked at.
 * A field on points counts in each cell as the mean of its corners.
 * @throws {NoReach} there is no such body, or the limit is none
 */
export function volumeReach(volume: Volume, { of, unit, free, limit, body, unitM }: ReachAsked): { readonly reach: Reach; readonly made: Made } {
  const departure = departureFrom(entriesInCells(volume, of), free);
  const reach = reachOfDisturbance(aroundGrid(volume.work, unitM), departure, limit, body);
  return {
    reach,
    made: {
      array: { name: withUnit(`departure of ${plainName(of.name)}`, unit), components: 1, values: departure },
      on: "cells",
      unit,
      made: `Departure: how far ${of.name}${of.component === "size" ? ", its size," : ""} lies from ${free}${unit && unit !== "1" ? ` ${unit}` : ""}${of.on === "points" ? ", the mean of each cell's corners" : ""}.`,
    },
  };
}
