import type { Stage } from "../results/stage.ts";

/** What may be behind a finding, and what would confirm it. */
export interface Cause {
  readonly key: string;
  readonly name: string;
  /** what to look at or run, and at which stage */
  readonly checks: readonly { readonly sentence: string; readonly go: Stage }[];
}

/** Causes seen at work, in the order of the stages they sit at. */
export const CAUSES: readonly Cause[] = [
  {
    key: "setup-slip",
    name: "a slip in the set-up: fluid, density, viscosity, speed",
    checks: [{ sentence: "Read the remarks on the set-up and hold the set-up against the case it was copied from.", go: "question" }],
  },
  {
    key: "half-model",
    name: "a half model's factor, applied twice or not at all",
    checks: [{ sentence: "Compare the factor in the file with the one applied here, and the reference area with the whole body's.", go: "question" }],
  },
  {
    key: "turbulence",
    name: "turbulence model or inlet turbulence",
    checks: [
      { sentence: "Look whether the turbulence at the inlet was inherited from another case.", go: "question" },
      { sentence: "Run once more with another model or other inlet turbulence: the difference is that model's.", go: "runs" },
    ],
  },
  {
    key: "yardstick-range",
    name: "a yardstick outside its range or at other conditions",
    checks: [{ sentence: "Read where the yardstick holds, and the conditions it was made at.", go: "yardsticks" }],
  },
  {
    key: "bad-point",
    name: "a bad point of the measurement, or a misprint",
    checks: [{ sentence: "Look at the point among its neighbours; mark it as doubtful with the reason.", go: "yardsticks" }],
  },
  {
    key: "wrong-station",
    name: "the wrong station, line or origin",
    checks: [
      { sentence: "Compare with the stations beside it: one that fits better than its own was mistaken for it.", go: "comparison" },
      { sentence: "A front that is shifted by one distance everywhere points to another origin.", go: "comparison" },
    ],
  },
  {
    key: "domain",
    name: "a flow domain too small, or too short",
    checks: [{ sentence: "Plan a ladder of domains from the finest run: the quantity must stop moving.", go: "refinement" }],
  },
  {
    key: "mesh",
    name: "the mesh, or a family outside its asymptotic range",
    checks: [
      { sentence: "Look at the observed order and where the error sits; add a finer mesh.", go: "refinement" },
      { sentence: "Look for bad cells where the difference is.", go: "meshes" },
    ],
  },
  {
    key: "interface",
    name: "an interface or boundary that loses mass or heat",
    checks: [{ sentence: "Compare inflow and outflow on every mesh.", go: "balance" }],
  },
  {
    key: "tolerance",
    name: "a stopping tolerance too loose, or a stalled run",
    checks: [
      { sentence: "Look how far the residuals fell and how the quantity depended on the tolerance.", go: "settling" },
      { sentence: "Run on with a tighter tolerance.", go: "runs" },
    ],
  },
  {
    key: "averaging",
    name: "an average too short, or a start-up left in it",
    checks: [{ sentence: "Move the start-up, and compare the uncertainty of the mean with the difference.", go: "settling" }],
  },
  {
    key: "time-step",
    name: "the time step",
    checks: [{ sentence: "Plan a ladder of time steps on the finest mesh.", go: "refinement" }],
  },
  {
    key: "scheme",
    name: "a scheme of first order, or too much limiting",
    checks: [{ sentence: "Run once more with the scheme of second order on the same mesh.", go: "runs" }],
  },
  {
    key: "entry",
    name: "a flow that is not developed where it is compared",
    checks: [{ sentence: "Compare the entry length with the length ahead of the station.", go: "question" }],
  },
];

/** A cause by its key; undefined for one of a person's own words. */
export const findCause = (key: string): Cause | undefined => CAUSES.find((c) => c.key === key);
