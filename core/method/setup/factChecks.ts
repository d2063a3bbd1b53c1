import { percent, quantityText, significant } from "../../formatting/number.ts";
import type { Facts, Setup } from "../../records/setup.ts";
import type { Remark } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { away, kinematicViscosity, pipeEntryDiameters, reynoldsNumber } from "./setup.ts";

/** A rule over facts: silent while something it needs is not known. */
type FactCheck = (f: Facts, s: Setup) => Remark | undefined;

const known = (f: Facts, ...keys: string[]): boolean => keys.every((k) => Number.isFinite(f[k]));
const remark = (rule: string, severity: Remark["severity"], sentence: string): Remark => ({ rule, severity, sentence });

const modelRange: FactCheck = (f, s) => {
  if (!known(f, "model", "transitionReynolds")) return undefined;
  const re = reynoldsNumber(s);
  const limit = f.transitionReynolds;
  if (f.model === 0 && re > limit)
    return remark(
      "model-range",
      "stop",
      `A laminar model at Reynolds number ${significant(re, 4)}, above the ${significant(limit, 3)} at which the flow turns: it computes a flow that does not exist.`,
    );
  if (f.model === 1 && re < limit)
    return remark(
      "model-range",
      "doubt",
      `A turbulence model at Reynolds number ${significant(re, 4)}, below the ${significant(limit, 3)} at which the flow turns: it adds viscosity that is not there.`,
    );
  return undefined;
};

const jetSpeed: FactCheck = (f, s) => {
  if (!known(f, "jetSpeedMS", "pressureDropPa") || !(f.pressureDropPa > 0)) return undefined;
  const approach = known(f, "approachSpeedMS") ? f.approachSpeedMS : 0;
  const ideal = Math.sqrt((2 * f.pressureDropPa) / s.densityKgM3 + approach * approach);
  const ratio = f.jetSpeedMS / ideal;
  // Losses slow a jet; nothing makes it faster than all its pressure would.
  if (ratio <= 1.02 && ratio >= 0.7) return undefined;
  return remark(
    "jet-and-pressure",
    ratio > 1.02 ? "stop" : "doubt",
    `A jet of ${quantityText(f.jetSpeedMS, "m/s", 4)} disagrees with the pressure drop of ${quantityText(f.pressureDropPa, "Pa", 4)}, which${approach ? ` with ${quantityText(approach, "m/s", 3)} ahead of it` : ""} drives ${quantityText(ideal, "m/s", 4)} without losses (${significant(ratio, 3)} of it).`,
  );
};

const liftToDrag: FactCheck = (f) => {
  if (!known(f, "liftCoefficient", "dragCoefficient", "liftToDrag") || f.dragCoefficient === 0) return undefined;
  const ratio = f.liftCoefficient / f.dragCoefficient;
  if (Math.abs(f.liftToDrag - ratio) <= 0.01 * Math.max(Math.abs(ratio), Math.abs(f.liftToDrag))) return undefined;
  return remark(
    "lift-to-drag",
    "stop",
    `Lift over drag is quoted as ${significant(f.liftToDrag, 4)}, but ${significant(f.liftCoefficient, 4)} over ${significant(f.dragCoefficient, 4)} is ${significant(ratio, 4)}.`,
  );
};

const bodyInside: FactCheck = (f) => {
  if (!known(f, "domainLowM", "domainHighM", "bodyLowM", "bodyHighM")) return undefined;
  const low = f.domainLowM - f.bodyLowM;
  const high = f.bodyHighM - f.domainHighM;
  if (low <= 0 && high <= 0) return undefined;
  return remark(
    "body-outside",
    "stop",
    `The body reaches from ${quantityText(f.bodyLowM, "m", 4)} to ${quantityText(f.bodyHighM, "m", 4)}, the domain only from ${quantityText(f.domainLowM, "m", 4)} to ${quantityText(f.domainHighM, "m", 4)}: ${quantityText(Math.max(low, high), "m", 3)} of it lie outside.`,
  );
};

const AHEAD = 3;
const BEHIND = 6;

const tightDomain: FactCheck = (f) => {
  if (!known(f, "domainLowM", "domainHighM", "bodyLowM", "bodyHighM")) return undefined;
  const length = f.bodyHighM - f.bodyLowM;
  const ahead = (f.bodyLowM - f.domainLowM) / length;
  const behind = (f.domainHighM - f.bodyHighM) / length;
  if (!(length > 0) || ahead < 0 || behind < 0 || (ahead >= AHEAD && behind >= BEHIND)) return undefined;
  return remark(
    "tight-domain",
    "doubt",
    `The domain leaves ${significant(ahead, 2)} body lengths ahead and ${significant(behind, 2)} behind; ${AHEAD} and ${BEHIND} are the least without a study of the domain.`,
  );
};

const blockage: FactCheck = (f) => {
  if (!known(f, "bodyFrontM2", "domainSectionM2")) return undefined;
  const share = f.bodyFrontM2 / f.domainSectionM2;
  if (share <= 0.03) return undefined;
  return remark(
    "blockage",
    share > 0.1 ? "stop" : "doubt",
    `The body blocks ${percent(share)} of the domain's cross section; above 3 % the flow around it is sped up noticeably, by about as much.`,
  );
};

const referenceArea: FactCheck = (f) => {
  if (!known(f, "modelShare", "referenceAreaM2", "wholeAreaM2") || !(f.modelShare < 0.99)) return undefined;
  const factor = (known(f, "factorInFile") ? f.factorInFile : 1) * (known(f, "factorHere") ? f.factorHere : 1);
  // Force of a share times all factors, over the area: right when both stand for the same part of the body.
  const force = f.modelShare * factor;
  const area = f.referenceAreaM2 / f.wholeAreaM2;
  if (away(force, area) <= 0.02) return undefined;
  return remark(
    "half-model-area",
    "stop",
    `Forces of ${percent(f.modelShare)} of the body, times ${significant(factor, 3)}, stand over ${percent(area)} of its reference area: coefficients come out ${significant(force / area, 3)} times what they should be.`,
  );
};

const doubledTwice: FactCheck = (f) => {
  if (!known(f, "modelShare", "factorInFile", "factorHere")) return undefined;
  const factor = f.factorInFile * f.factorHere;
  if (f.factorInFile === 1 || f.factorHere === 1 || away(factor * f.modelShare, 1) <= 0.02) return undefined;
  return remark(
    "factor-twice",
    "stop",
    `The file already multiplied forces by ${significant(f.factorInFile, 3)}, and ${significant(f.factorHere, 3)} is applied here again: a model of ${percent(f.modelShare)} would need ${significant(1 / f.modelShare, 3)} in all, not ${significant(factor, 3)}.`,
  );
};

const axisymmetric: FactCheck = (f) =>
  f.roundBody === 1 && f.axisymmetricSet === 0
    ? remark(
        "axisymmetric-not-set",
        "stop",
        "The body is one of revolution, but axisymmetric is not set in the code (it is 0, not 1): a plane piece of it was computed, an endless bar.",
      )
    : undefined;

const axisPlace: FactCheck = (f, s) => {
  if (!known(f, "axisOffsetM") || f.axisymmetricSet !== 1 || Math.abs(f.axisOffsetM) <= 1e-9 * s.lengthM) return undefined;
  return remark(
    "axis-off-zero",
    "stop",
    `The axis lies at y = ${quantityText(f.axisOffsetM, "m", 4)}, not at 0: every radius is off by that, ${percent(Math.abs(f.axisOffsetM) / s.lengthM)} of the ${s.lengthName}.`,
  );
};

const mirrored: FactCheck = (f, s) => {
  if (!known(f, "mirrorPlaneM", "lineOneM", "lineTwoM")) return undefined;
  const image = 2 * f.mirrorPlaneM - f.lineOneM;
  if (Math.abs(f.lineTwoM - image) <= 1e-4 * s.lengthM) return undefined;
  return remark(
    "lines-not-mirrored",
    "stop",
    `The sampling lines at y = ${quantityText(f.lineOneM, "m", 5)} and ${quantityText(f.lineTwoM, "m", 5)} are no mirror images about ${quantityText(f.mirrorPlaneM, "m", 5)}: the second would have to lie at ${quantityText(image, "m", 5)}.`,
  );
};

const pipeEntry: FactCheck = (f, s) => {
  if (!known(f, "pipeDiameterM", "pipeLengthM")) return undefined;
  const re = (s.velocityMS * f.pipeDiameterM) / kinematicViscosity(s);
  const turbulent = re > 2300;
  const needed = f.pipeDiameterM * (turbulent ? 1.6 * re ** 0.25 : pipeEntryDiameters(re));
  if (f.pipeLengthM >= needed) return undefined;
  return remark(
    "pipe-entry-length",
    "stop",
    `The pipe is ${significant(f.pipeLengthM / f.pipeDiameterM, 3)} diameters long; at Reynolds number ${significant(re, 3)} the flow develops over ${significant(needed / f.pipeDiameterM, 3)}: its end is not the developed profile it is compared with.`,
  );
};

const inheritedTurbulence: FactCheck = (f, s) => {
  if (f.turbulenceInherited !== 1) return undefined;
  const parts: string[] = [];
  if (known(f, "turbulenceIntensity")) parts.push(`intensity ${percent(f.turbulenceIntensity)}`);
  if (known(f, "turbulenceLengthM"))
    parts.push(`length ${quantityText(f.turbulenceLengthM, "m", 3)}, ${percent(f.turbulenceLengthM / s.lengthM)} of the ${s.lengthName}`);
  const strange = known(f, "turbulenceLengthM") && (f.turbulenceLengthM > s.lengthM || f.turbulenceLengthM < 1e-4 * s.lengthM);
  return remark(
    "turbulence-inherited",
    strange ? "stop" : "doubt",
    `Turbulence settings were kept from the case this one was copied from${parts.length ? ` (${parts.join("; ")})` : ""}. Say why they hold here, or set them anew.`,
  );
};

const leftOverFields: FactCheck = (f) =>
  f.startFieldsKept === 1
    ? remark(
        "fields-left-over",
        "doubt",
        "Start fields of the copied case were kept (1 set of them): where the iteration does not wipe them out, part of the result is the other case's.",
      )
    : undefined;

/** Rules over facts. */
export const FACT_RULES = rulesOf<{ readonly check: FactCheck }>("core/method/setup/factChecks.ts", [
  {
    rule: "model-range",
    text: "A laminar model above, or a turbulence model below, the Reynolds number at which the flow turns.",
    source: "textbook",
    check: modelRange,
  },
  {
    rule: "jet-and-pressure",
    text: "A jet without losses has √(2 Δp/ρ); losses may take 30 %, nothing makes it faster.",
    source: "Bernoulli",
    check: jetSpeed,
  },
  {
    rule: "lift-to-drag",
    text: "The quoted ratio against the quotient of the two coefficients quoted beside it, within 1 %.",
    source: "own",
    check: liftToDrag,
  },
  {
    rule: "body-outside",
    text: "The extent of the body along the flow against that of the domain.",
    source: "own",
    check: bodyInside,
  },
  {
    rule: "tight-domain",
    text: "At least three body lengths ahead and six behind, unless a study of the domain says otherwise.",
    source: "own",
    check: tightDomain,
  },
  {
    rule: "blockage",
    text: "Frontal area over the domain's cross section: a doubt above 3 %, a stop above 10 %.",
    source: "common practice of wind tunnels",
    check: blockage,
  },
  {
    rule: "half-model-area",
    text: "Force of the modelled share times all factors must stand over the same share of the reference area.",
    source: "own",
    check: referenceArea,
  },
  {
    rule: "factor-twice",
    text: "A half or periodic factor is applied once: in the file or here.",
    source: "method of this product",
    check: doubledTwice,
  },
  {
    rule: "axisymmetric-not-set",
    text: "A body of revolution needs the axisymmetric setting, else a plane piece is computed.",
    source: "own",
    check: axisymmetric,
  },
  {
    rule: "axis-off-zero",
    text: "The axis of a revolved model lies at y = 0.",
    source: "own",
    check: axisPlace,
  },
  {
    rule: "lines-not-mirrored",
    text: "Two sampling lines meant to be mirror images lie at equal distance from the mirror plane.",
    source: "own",
    check: mirrored,
  },
  {
    rule: "pipe-entry-length",
    text: "Laminar: L/D = (0.619^1.6 + (0.0567 Re)^1.6)^(1/1.6). Turbulent: L/D = 1.6 Re^0.25.",
    source: "Durst et al. 2005; Anselmet et al. 2009",
    check: pipeEntry,
  },
  {
    rule: "turbulence-inherited",
    text: "Turbulence settings of a copied case are asked about; a length beyond the body or below a ten-thousandth of it stops.",
    source: "own",
    check: inheritedTurbulence,
  },
  {
    rule: "fields-left-over",
    text: "Start fields of a copied case are asked about.",
    source: "own",
    check: leftOverFields,
  },
]);
