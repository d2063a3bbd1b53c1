import { cellMetrics } from "../../dataset/gridQuality.ts";
import { LayerWalk } from "../../dataset/layerWalk.ts";
import { METRICS, MOST_LAYERS } from "../../dataset/metrics.ts";
import { layersFromOutside, wallLayers } from "../../dataset/wallLayers.ts";
import type { KnownFields } from "./knownFields.ts";
import { type Made, MESH_FIELDS, type MeshField } from "./said.ts";

/** A field of the cells themselves. */
export function ofMesh(fields: KnownFields, kind: MeshField): Made {
  const { unitM } = fields.said;
  const name = MESH_FIELDS[kind];
  if (kind === "depth") return fields.made(name, "1", 1, layersFromOutside(fields.grid, fields.work.faces), "cells", "counted inwards over faces");
  if (kind === "firstHeight" || kind === "layerCount" || kind === "layerGrowth") {
    const layers = wallLayers(new LayerWalk(fields.grid, fields.work.faces), fields.work.middles);
    const words = `along the outside, of cells whose face there has one opposite; where heights change by more than a factor of two the layers end, and after ${MOST_LAYERS}`;
    if (kind === "layerCount") return fields.made(name, "1", 1, layers.layers, "cells", words);
    if (kind === "layerGrowth") return fields.made(name, "1", 1, layers.growth, "cells", words);
    const height = layers.height.map((h) => h * unitM);
    return fields.made(name, "m", 1, height, "cells", `twice the distance of a cell's middle from its face outside; ${words}`);
  }
  const values = cellMetrics(fields.grid, fields.work.faces)[kind];
  if (kind === "volume")
    return fields.made(
      name,
      "m^3",
      1,
      values.map((v) => v * unitM ** 3),
      "cells",
      "by tetrahedra about its middle",
    );
  return fields.made(name, METRICS[kind].unit, 1, values, "cells", `the worst of each cell's faces; looked at from ${METRICS[kind].limit} on`);
}
