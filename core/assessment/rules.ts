import { DRIFT_RULES } from "../method/averaging/drift.ts";
import { MEAN_UNCERTAINTY_RULES } from "../method/averaging/meanUncertainty.ts";
import { RECORD_RULES } from "../method/averaging/record.ts";
import { SLOW_START_UP_RULES } from "../method/averaging/slowStartUp.ts";
import { SPECTRUM_RULES } from "../method/averaging/spectrum.ts";
import { START_UP_RULES } from "../method/averaging/startUp.ts";
import { STATISTIC_RULES } from "../method/averaging/statistic.ts";
import { BALANCE_RULES } from "../method/balance/balance.ts";
import { LAWS_RULES } from "../method/balance/laws.ts";
import { SURFACE_RULES } from "../method/balance/surfaceForces.ts";
import { BETWEEN_CODES_RULES } from "../method/comparison/betweenCodes.ts";
import { COMPARE_VALUE_RULES } from "../method/comparison/compareValue.ts";
import { COMPARISON_RULES } from "../method/comparison/comparison.ts";
import { TURNED_CURVE_RULES } from "../method/comparison/turnedCurve.ts";
import { COVERAGE_RULES } from "../method/coverage/coverage.ts";
import { CREDIBILITY_RULES } from "../method/credibility/credibility.ts";
import { ITERATION_ERROR_RULES } from "../method/iteration/iterationError.ts";
import { RESIDUALS_RULES } from "../method/iteration/residuals.ts";
import { INPUT_RULES } from "../method/propagation/inputs.ts";
import { OWN_RULES } from "../method/propagation/ownRules.ts";
import { SHARED_INPUT_RULES } from "../method/propagation/sharedInputs.ts";
import { DOMAIN_RULES } from "../method/refinement/alongDomain.ts";
import { CROSS_CHECK_RULES } from "../method/refinement/crossChecks.ts";
import { FIELD_REFINEMENT_RULES } from "../method/refinement/fieldRefinement.ts";
import { LEAST_SQUARES_RULES } from "../method/refinement/leastSquares.ts";
import { PLANNING_RULES } from "../method/refinement/planning.ts";
import { POINT_BY_POINT_RULES } from "../method/refinement/pointByPoint.ts";
import { PROCEDURE_RULES } from "../method/refinement/procedures.ts";
import { SPACE_TIME_RULES } from "../method/refinement/spaceTime.ts";
import { THREE_MESH_RULES } from "../method/refinement/threeMesh.ts";
import { SETUP_RULES, SETUP_WORDS } from "../method/setup/checks.ts";
import { FACT_RULES } from "../method/setup/factChecks.ts";
import { SPACE_QUALITY_RULES } from "../method/setup/spaceQuality.ts";
import type { RuleText } from "../remarks/rule.ts";
import { CONTROL_BOX_RULES } from "../solver/readings/controlBox.ts";
import { ROUND_RULES } from "../study/rounds.ts";
import { CROSS_FORCE_RULES } from "./balance/assess.ts";
import { COMPARING_RULES } from "./comparison/comparing.ts";
import { REFINEMENT_RULES } from "./refinement/refinement.ts";
import { SETTLING_RULES } from "./settling/settling.ts";
import { CLAIM_RULES } from "./verdict/claim.ts";

/** Every rule the margin may name, in the order of the work. */
export const RULE_TEXTS: readonly RuleText[] = [
  ...SETUP_RULES,
  ...SETUP_WORDS,
  ...FACT_RULES,
  ...SPACE_QUALITY_RULES,
  ...RESIDUALS_RULES,
  ...ITERATION_ERROR_RULES,
  ...SETTLING_RULES,
  ...RECORD_RULES,
  ...START_UP_RULES,
  ...MEAN_UNCERTAINTY_RULES,
  ...DRIFT_RULES,
  ...SPECTRUM_RULES,
  ...SLOW_START_UP_RULES,
  ...STATISTIC_RULES,
  ...BALANCE_RULES,
  ...INPUT_RULES,
  ...SHARED_INPUT_RULES,
  ...LAWS_RULES,
  ...SURFACE_RULES,
  ...CROSS_FORCE_RULES,
  ...CONTROL_BOX_RULES,
  ...THREE_MESH_RULES,
  ...LEAST_SQUARES_RULES,
  ...CROSS_CHECK_RULES,
  ...PROCEDURE_RULES,
  ...DOMAIN_RULES,
  ...FIELD_REFINEMENT_RULES,
  ...POINT_BY_POINT_RULES,
  ...SPACE_TIME_RULES,
  ...PLANNING_RULES,
  ...REFINEMENT_RULES,
  ...OWN_RULES,
  ...CREDIBILITY_RULES,
  ...ROUND_RULES,
  ...COVERAGE_RULES,
  ...COMPARING_RULES,
  ...CLAIM_RULES,

  ...COMPARISON_RULES,
  ...TURNED_CURVE_RULES,
  ...COMPARE_VALUE_RULES,
  ...BETWEEN_CODES_RULES,
];
