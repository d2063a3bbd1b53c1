/** How the convected value at a face is taken; all but "upwind" are second order where the field is smooth. */
export type ConvectionScheme = "upwind" | "central" | "linear-upwind" | "limited";
export const SCHEMES: readonly ConvectionScheme[] = ["upwind", "central", "linear-upwind", "limited"];
