/** What a watched quantity may be on a line, in a volume, through a boundary. */
export const LINE_TAKES = ["mean", "lowest", "highest", "place of the lowest", "place of the highest", "place of the steepest slope"] as const;
export const VOLUME_TAKES = [
  "mean",
  "integral",
  "lowest",
  "highest",
  "x of the lowest",
  "y of the lowest",
  "x of the highest",
  "y of the highest",
] as const;
export const BOUNDARY_TAKES = [
  "mass flow out",
  "force along x",
  "force along y",
  "force along x by pressure",
  "force along y by pressure",
  "force along x by shear",
  "force along y by shear",
  "flow out of a carried quantity",
  "place where the flow along it first turns",
  "place where the flow along it last turns",
] as const;
