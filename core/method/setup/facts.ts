/** Something about a set-up a rule can check, typed when it is known; SI. */
export interface FactSpec {
  readonly key: string;
  readonly label: string;
  readonly unit: string;
  readonly group: (typeof FACT_GROUPS)[number];
  readonly help: string;
  readonly choices?: readonly (readonly [number, string])[];
}

export const FACT_GROUPS = ["Flow", "Domain and body", "Forces", "Axis, mirror and entry", "Copied from another case"] as const;

const YES: readonly (readonly [number, string])[] = [
  [0, "no"],
  [1, "yes"],
];

const fact = (group: FactSpec["group"], key: string, label: string, unit: string, help: string, choices?: FactSpec["choices"]): FactSpec => ({
  key,
  label,
  unit,
  group,
  help,
  ...(choices ? { choices } : {}),
});

/** Everything the set-up rules know how to check besides what every case states. */
export const FACTS: readonly FactSpec[] = [
  fact(
    "Flow",
    "transitionReynolds",
    "Reynolds number of transition",
    "",
    "For the velocity and length above: about 2300 in a pipe, 5e5 along a plate.",
  ),
  fact("Flow", "jetSpeedMS", "Jet speed", "m/s", "Speed the jet is said to have."),
  fact("Flow", "approachSpeedMS", "Speed ahead of the opening", "m/s", "Adds its dynamic pressure to the drop; 0 where air stands still there."),
  fact("Flow", "pressureDropPa", "Pressure drop that drives it", "Pa", "Pressure ahead of the opening less that behind it."),
  fact("Domain and body", "domainLowM", "Domain begins at, along the flow", "m", ""),
  fact("Domain and body", "domainHighM", "Domain ends at, along the flow", "m", ""),
  fact("Domain and body", "bodyLowM", "Body begins at, along the flow", "m", ""),
  fact("Domain and body", "bodyHighM", "Body ends at, along the flow", "m", ""),
  fact("Domain and body", "domainSectionM2", "Cross section of the domain", "m^2", ""),
  fact("Domain and body", "bodyFrontM2", "Frontal area of the body", "m^2", "As it stands in the domain."),
  fact("Forces", "liftCoefficient", "Lift coefficient quoted", "", ""),
  fact("Forces", "dragCoefficient", "Drag coefficient quoted", "", ""),
  fact("Forces", "liftToDrag", "Lift-to-drag ratio quoted", "", ""),
  fact("Forces", "referenceAreaM2", "Reference area of the coefficients", "m^2", ""),
  fact("Forces", "wholeAreaM2", "Reference area of the whole body", "m^2", ""),
  fact("Forces", "factorInFile", "Factor applied to forces in the file", "", "2 where the file already doubled a half model's force."),
  fact("Forces", "factorHere", "Factor applied to forces here", "", ""),
  fact("Axis, mirror and entry", "roundBody", "The body is one of revolution", "", "Meant to be axisymmetric.", YES),
  fact("Axis, mirror and entry", "axisOffsetM", "Axis lies at y", "m", "Revolved models want it at zero."),
  fact("Axis, mirror and entry", "mirrorPlaneM", "Mirror plane at y", "m", ""),
  fact(
    "Axis, mirror and entry",
    "symmetricFlow",
    "Body and flow are symmetric",
    "",
    "At zero incidence, say: then no lift, side force or moment may be left.",
    YES,
  ),
  fact("Axis, mirror and entry", "lineOneM", "First sampling line at y", "m", ""),
  fact("Axis, mirror and entry", "lineTwoM", "Its mirror image at y", "m", ""),
  fact("Axis, mirror and entry", "pipeDiameterM", "Diameter of the pipe", "m", "Where a pipe is compared with its developed profile."),
  fact("Axis, mirror and entry", "pipeLengthM", "Length of the pipe", "m", ""),
  fact("Copied from another case", "turbulenceInherited", "Turbulence settings kept from the copied case", "", "", YES),
  fact("Copied from another case", "turbulenceIntensity", "Turbulence intensity at the inlet", "", "A share: 5 % or 0.05."),
  fact("Copied from another case", "turbulenceLengthM", "Turbulence length at the inlet", "m", ""),
  fact("Copied from another case", "startFieldsKept", "Start fields kept from the copied case", "", "", YES),
];
