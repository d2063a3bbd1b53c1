import { CASE_OPERATIONS } from "./cases.ts";
import { CREDIBILITY_OPERATIONS } from "./credibility.ts";
import { CURVE_OPERATIONS } from "./curves.ts";
import { FIELD_OPERATIONS } from "./fields.ts";
import { FILE_OPERATIONS } from "./files.ts";
import { LIBRARY_OPERATIONS } from "./library.ts";
import { NODE_OPERATIONS } from "./nodes.ts";
import type { Operation } from "./operation.ts";
import { PACK_OPERATIONS } from "./packs.ts";
import { PILOT_OPERATIONS } from "./pilots.ts";
import { PROGRAMME_OPERATIONS } from "./programmes.ts";
import { QUANTITY_OPERATIONS } from "./quantities.ts";
import { REPORT_OPERATIONS } from "./reports.ts";
import { ROUND_OPERATIONS } from "./rounds.ts";
import { RUN_OPERATIONS } from "./runs.ts";
import { SURFACE_OPERATIONS } from "./surfaces.ts";
import { TIME_LINE_OPERATIONS } from "./timeLine.ts";

/** Everything that can be asked of the application, by the subject it is listed under in the description. */
export const OPERATIONS: Readonly<Record<string, readonly Operation[]>> = {
  programmes: PROGRAMME_OPERATIONS,
  cases: CASE_OPERATIONS,
  credibility: CREDIBILITY_OPERATIONS,
  quantities: QUANTITY_OPERATIONS,
  library: LIBRARY_OPERATIONS,
  curves: CURVE_OPERATIONS,
  rounds: ROUND_OPERATIONS,
  "time line": TIME_LINE_OPERATIONS,
  runs: RUN_OPERATIONS,
  fields: FIELD_OPERATIONS,
  surfaces: SURFACE_OPERATIONS,
  autopilots: PILOT_OPERATIONS,
  files: FILE_OPERATIONS,
  reports: REPORT_OPERATIONS,
  packs: PACK_OPERATIONS,
  nodes: NODE_OPERATIONS,
};
