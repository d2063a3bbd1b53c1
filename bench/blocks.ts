import type { Grid } from "../core/dataset/grid.ts";
import { hexahedra } from "../core/dataset/made.ts";

/** n hexahedra a side, with a value a cell. */
export const block = (n: number): Grid =>
  hexahedra([n, n, n], (i, j, k) => [i / n, j / n, k / n], [{ name: "p", components: 1, values: new Float64Array(n ** 3) }]);
