/** Cell shapes a rectangle can be filled with. */
export const CELL_SHAPES = ["rows", "smooth", "jittered", "triangles", "hexagons"] as const;
export type CellShape = (typeof CELL_SHAPES)[number];
