type Named = { readonly key: string; readonly name: string };
export type Choices = readonly (readonly [string, string])[];

const FLOWS: Choices = [
  ["boundary-mass", "mass through a boundary"],
  ["boundary-x", "x force and momentum through a boundary"],
  ["boundary-y", "y force and momentum through a boundary"],
  ["boundary-energy", "energy through a boundary"],
  ["boundary-species", "species through a boundary"],
];

const NORMS: Choices = [
  ["norm-l1", "error of a field, L1"],
  ["norm-l2", "error of a field, L2"],
  ["norm-max", "error of a field, largest"],
  ["norm-scale", "largest exact value of a field"],
];

const quantityChoices = (quantities: readonly Named[]): Choices => quantities.map((q) => [`quantity:${q.key}`, q.name] as const);

/** What a column of a record can be. */
export const columnChoices = (quantities: readonly Named[]): Choices => [
  ["ignore", "left out"],
  ["iteration", "iteration"],
  ["time", "time"],
  ["residual", "residual"],
  ["log-residual", "residual, as log10"],
  ...quantityChoices(quantities),
  ...FLOWS,
];

/** What a row of a table of results can be. */
export const rowChoices = (quantities: readonly Named[]): Choices => [["ignore", "left out"], ...quantityChoices(quantities), ...FLOWS, ...NORMS];
