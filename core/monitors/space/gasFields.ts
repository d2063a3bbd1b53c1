import { FieldMistake } from "../../intake/gridFields.ts";
import type { Known, KnownFields } from "./knownFields.ts";
import type { Made } from "./said.ts";

/** Mach number from the fields of `machFields`. */
function machAt(fields: KnownFields, at: (field: number, component?: number) => number): number {
  const { gamma, gasConstant } = fields.gas();
  const squared = fields.has("temperature") ? gamma * gasConstant * at(1) : (gamma * at(1)) / at(2);
  return Math.hypot(at(0, 0), at(0, 1), at(0, 2)) / Math.sqrt(squared);
}

function machFields(fields: KnownFields): Known[] {
  const velocity = fields.known("velocity", 3);
  return fields.has("temperature") ? [velocity, fields.known("temperature", 1)] : [velocity, fields.known("pressure", 1), fields.known("density", 1)];
}

export function mach(fields: KnownFields): Made {
  fields.gas();
  const words = fields.has("temperature") ? "speed over that of sound at the temperature" : "speed over that of sound by pressure and density";
  return fields.each("Mach number", "1", machFields(fields), (at) => machAt(fields, at), words);
}

export function totalTemperature(fields: KnownFields): Made {
  const { gamma } = fields.gas();
  if (!fields.has("temperature")) throw new FieldMistake("Fields", "say which array is the temperature.");
  return fields.each(
    "total temperature",
    "K",
    machFields(fields),
    (at) => at(1) * (1 + ((gamma - 1) / 2) * machAt(fields, at) ** 2),
    "temperature and Mach number",
  );
}

export function totalPressure(fields: KnownFields): Made {
  const pressure = fields.known("pressure", 1);
  const { gas } = fields.said;
  if (gas) {
    const flow = machFields(fields);
    return fields.each(
      "total pressure",
      "Pa",
      [...flow, pressure],
      (at) => at(flow.length) * (1 + ((gas.gamma - 1) / 2) * machAt(fields, at) ** 2) ** (gas.gamma / (gas.gamma - 1)),
      "pressure and Mach number, brought to rest without loss; the pressure is taken as absolute",
    );
  }
  const density = fields.has("density") ? [fields.known("density", 1)] : [];
  const densityKgM3 = density.length ? 0 : fields.density();
  return fields.each(
    "total pressure",
    "Pa",
    [fields.known("velocity", 3), pressure, ...density],
    (at) => at(1) + 0.5 * (density.length ? at(2) : densityKgM3) * (at(0, 0) ** 2 + at(0, 1) ** 2 + at(0, 2) ** 2),
    `pressure and half the density (${density.length ? density[0].array.name : `${densityKgM3} kg/m^3 of the case`}) times the speed squared`,
  );
}

export function pressureCoefficient(fields: KnownFields): Made {
  const { pressurePa, speedMS } = fields.far();
  const densityKgM3 = fields.density();
  return fields.each(
    "pressure coefficient",
    "1",
    [fields.known("pressure", 1)],
    (at) => (at(0) - pressurePa) / (0.5 * densityKgM3 * speedMS ** 2),
    `pressure over ${pressurePa} Pa, by half of ${densityKgM3} kg/m^3 times ${speedMS} m/s squared`,
  );
}

export function entropy(fields: KnownFields): Made {
  const { gamma, gasConstant } = fields.gas();
  const { pressurePa, temperatureK } = fields.far();
  if (!(temperatureK && temperatureK > 0 && pressurePa > 0)) throw new FieldMistake("Fields", "say the pressure and the temperature far away.");
  return fields.each(
    "entropy",
    "J/(kg K)",
    [fields.known("temperature", 1), fields.known("pressure", 1)],
    (at) => ((gamma * gasConstant) / (gamma - 1)) * Math.log(at(0) / temperatureK) - gasConstant * Math.log(at(1) / pressurePa),
    `over a gas at ${temperatureK} K and ${pressurePa} Pa`,
  );
}
