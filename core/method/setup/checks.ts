import { percent, quantityText, significant } from "../../formatting/number.ts";
import type { Setup } from "../../records/setup.ts";
import type { Remark } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { FACT_RULES } from "./factChecks.ts";
import { airDensity, airViscosity, away, knownFluid, platesEntryLength, reynoldsNumber, soundSpeed, waterDensity, waterViscosity } from "./setup.ts";

type Check = (s: Setup) => Remark | undefined;

/** What the named fluid should have at the typed temperature and pressure; undefined for fluids not known here. */
function expected(s: Setup): { density?: number; viscosity?: number; name: "air" | "water" } | undefined {
  const name = knownFluid(s.fluidName);
  const t = s.temperatureK;
  if (t === undefined || !(t > 0)) return undefined;
  if (name === "air") return { name: "air", density: s.pressurePa ? airDensity(t, s.pressurePa) : undefined, viscosity: airViscosity(t) };
  if (name === "water" && t > 273 && t < 373) return { name: "water", density: waterDensity(t), viscosity: waterViscosity(t) };
  return undefined;
}

/** Numbers made by exchanging two neighbouring digits of x as typed. */
function swapped(x: number): number[] {
  const text = String(x);
  const out: number[] = [];
  for (let i = 0; i < text.length; i++) {
    for (let j = i + 1; j < text.length; j++) {
      if (!/\d/.test(text[i]) || !/\d/.test(text[j]) || text[i] === text[j]) continue;
      const letters = [...text];
      [letters[i], letters[j]] = [letters[j], letters[i]];
      out.push(Number(letters.join("")));
    }
  }
  return out;
}

const density: Check = (s) => {
  const want = expected(s)?.density;
  if (want === undefined || away(s.densityKgM3, want) <= 0.02) return undefined;
  const slip = swapped(s.densityKgM3).find((x) => away(x, want) <= 0.005);
  const hint = slip === undefined ? "" : ` Two digits look exchanged: ${slip} would fit.`;
  return {
    rule: "density-from-state",
    severity: away(s.densityKgM3, want) > 0.05 ? "stop" : "doubt",
    sentence: `Density ${quantityText(s.densityKgM3, "kg/m^3", 4)} does not match ${s.fluidName} at ${quantityText(s.temperatureK ?? 0, "K")}${s.pressurePa ? ` and ${quantityText(s.pressurePa, "Pa", 6)}` : ""}, which gives ${quantityText(want, "kg/m^3", 4)} (${percent(away(s.densityKgM3, want))} away).${hint}`,
  };
};

const viscosity: Check = (s) => {
  const want = expected(s);
  if (!want?.viscosity || s.dynamicViscosityPaS === undefined) return undefined;
  const mu = s.dynamicViscosityPaS;
  if (away(mu, want.viscosity) <= 0.1) return undefined;
  const t = s.temperatureK ?? 0;
  const kinematic = want.viscosity / (want.density ?? s.densityKgM3);
  if (away(mu, kinematic) <= 0.15) {
    return {
      rule: "dynamic-or-kinematic",
      severity: "stop",
      sentence: `Dynamic viscosity ${quantityText(mu, "Pa s")} is what the kinematic viscosity of ${want.name} should be (${quantityText(kinematic, "m^2/s", 3)}): one was entered for the other.`,
    };
  }
  const other = want.name === "air" && t > 273 && t < 373 ? waterViscosity(t) : airViscosity(t);
  const looks = away(mu, other) <= 0.15 ? ` It is the figure of ${want.name === "air" ? "water" : "air"}.` : "";
  return {
    rule: "viscosity-of-fluid",
    severity: "stop",
    sentence: `Viscosity ${quantityText(mu, "Pa s")} does not belong to ${want.name} at ${quantityText(t, "K")}, which has ${quantityText(want.viscosity, "Pa s", 3)}.${looks}`,
  };
};

const twoViscosities: Check = (s) => {
  if (s.dynamicViscosityPaS === undefined || s.kinematicViscosityM2S === undefined) return undefined;
  const nu = s.dynamicViscosityPaS / s.densityKgM3;
  if (away(s.kinematicViscosityM2S, nu) <= 0.01) return undefined;
  return {
    rule: "two-viscosities",
    severity: "stop",
    sentence: `Kinematic viscosity was typed as ${quantityText(s.kinematicViscosityM2S, "m^2/s")}, but dynamic viscosity over density gives ${quantityText(nu, "m^2/s")}.`,
  };
};

const reynolds: Check = (s) => {
  if (s.reynoldsTyped === undefined) return undefined;
  const re = reynoldsNumber(s);
  if (away(s.reynoldsTyped, re) <= 0.005) return undefined;
  return {
    rule: "reynolds-typed",
    severity: away(s.reynoldsTyped, re) > 0.05 ? "stop" : "doubt",
    sentence: `Reynolds number was typed as ${significant(s.reynoldsTyped, 5)}; velocity, length and viscosity give ${significant(re, 5)} (${percent(away(s.reynoldsTyped, re))} away).`,
  };
};

const mach: Check = (s) => {
  const c = soundSpeed(s);
  if (s.compressible || c === undefined || s.velocityMS / c <= 0.3) return undefined;
  return {
    rule: "mach-incompressible",
    severity: "stop",
    sentence: `Mach number ${significant(s.velocityMS / c, 3)} in an incompressible set-up; above 0.3 density changes by more than 4 %.`,
  };
};

const scheme: Check = (s) =>
  s.schemeOrder === undefined
    ? {
        rule: "numerics-not-stated",
        severity: "note",
        sentence:
          "The order of the code's convective scheme is not stated; second order is taken for the formal one, and a first-order slip would not show here.",
      }
    : s.schemeOrder === 1
      ? {
          rule: "first-order-scheme",
          severity: "doubt",
          sentence:
            "The convective scheme is first order: its numerical diffusion adds to the viscosity and falls only in proportion to the spacing.",
        }
      : undefined;

const tolerance: Check = (s) => {
  if (s.dropOrders === undefined)
    return {
      rule: "tolerance-not-stated",
      severity: "note",
      sentence: "How far the code let its residuals fall before it stopped is not stated; a preset of three orders would not show here.",
    };
  // Within a step one or two orders go a long way: the step's own error is larger. What is left shows in the settling.
  if (s.dropOrders >= (s.inTime ? 1 : 5)) return undefined;
  const preset = s.dropOrders === 3 ? " That is the preset of many codes, left on." : "";
  return {
    rule: "stopping-tolerance",
    severity: "doubt",
    sentence: `Residuals are asked to fall by ${significant(s.dropOrders, 2)} orders only; five or more keep the iteration error below the mesh error.${preset}`,
  };
};

const entryLength: Check = (s) => {
  if (!s.entry) return undefined;
  const needed = platesEntryLength(s);
  if (s.entry.lengthM >= needed) return undefined;
  return {
    rule: "entry-length",
    severity: "stop",
    sentence: `The piece is ${quantityText(s.entry.lengthM, "m", 3)} long, shorter than its entry length of ${quantityText(needed, "m", 3)}: at its end the flow is not the developed one it is compared with.`,
  };
};

/** Every set-up rule of method 8 that applies to one flow. */
export const SETUP_RULES = rulesOf<{ readonly check: Check }>("core/method/setup/checks.ts", [
  {
    rule: "density-from-state",
    text: "Density of air from p / (287.05 T), of water from a fit; more than 2 % away is a doubt, more than 5 % stops.",
    source: "perfect gas; White",
    check: density,
  },
  {
    rule: "viscosity-of-fluid",
    text: "Viscosity of air by Sutherland's law, of water by a fit; more than 10 % away stops.",
    source: "White",
    check: viscosity,
  },
  {
    rule: "two-viscosities",
    text: "Both viscosities typed must agree through the density within 1 %.",
    source: "own",
    check: twoViscosities,
  },
  {
    rule: "reynolds-typed",
    text: "Typed Reynolds number against velocity × length / ν; more than 0.5 % is a doubt, more than 5 % stops.",
    source: "own",
    check: reynolds,
  },
  {
    rule: "mach-incompressible",
    text: "Mach number above 0.3 in an incompressible set-up stops.",
    source: "own",
    check: mach,
  },
  {
    rule: "first-order-scheme",
    text: "A first-order convective scheme is a doubt.",
    source: "own",
    check: scheme,
  },
  {
    rule: "stopping-tolerance",
    text: "Fewer than five orders asked is a doubt.",
    source: "own",
    check: tolerance,
  },
  {
    rule: "entry-length",
    text: "Le/Dh = 0.315/(1 + 0.0175 Re) + 0.011 Re between plates, Dh twice the gap; a shorter piece compared with the developed profile stops.",
    source: "Chen 1973",
    check: entryLength,
  },
]);

/** What the checks above say besides, in words. */
export const SETUP_WORDS = rulesOf("core/method/setup/checks.ts", [
  {
    rule: "numerics-not-stated",
    text: "What another code did is asked, never preset: while the order of its scheme is not stated the formal order is taken as two and said so.",
    source: "method of this product",
  },
  {
    rule: "tolerance-not-stated",
    text: "What another code did is asked, never preset: its stopping tolerance is judged only once it is stated.",
    source: "method of this product",
  },
  {
    rule: "setup-complete",
    text: "Every rule of the set-up that has its inputs is checked at each change; what it finds stands until the set-up is mended or the remark is accepted with a reason, which is kept with its date.",
    source: "own",
  },
  {
    rule: "dynamic-or-kinematic",
    text: "A dynamic viscosity that equals the expected kinematic one was entered for it.",
    source: "own",
  },
]);

/** Remarks of all set-up rules, worst first. */
export function checkSetup(s: Setup): Remark[] {
  const order = { stop: 0, doubt: 1, note: 2 };
  const facts = s.facts ?? {};
  return [...SETUP_RULES.map((rule) => rule.check(s)), ...FACT_RULES.map((rule) => rule.check(facts, s))]
    .filter((r): r is Remark => r !== undefined)
    .sort((a, b) => order[a.severity] - order[b.severity]);
}
