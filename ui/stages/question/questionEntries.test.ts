import { describe, expect, test } from "vitest";
import { DEFAULT_NUMERICS } from "@/core/problems/describe/caseSetup";
import type { QuestionView } from "../../view";
import { limitText } from "./limitText";
import { questionEntries } from "./questionEntries";

const fluid = { name: "air", temperatureK: 277.15, pressurePa: 101325 };
const view = (setup: object, more: object = {}) =>
  ({
    title: "Louvre",
    purpose: "Does it agree?",
    evidence: { quantities: [{ key: "q1", name: "length", limit: 0.05 }] },
    setup: { problemId: null, parameters: {}, fluid, numerics: DEFAULT_NUMERICS, formulas: {}, ...setup },
    ...more,
  }) as unknown as QuestionView;

describe("the question as it is typed", () => {
  test("what was typed comes back as it was typed, what was worked out in SI", () => {
    const entries = questionEntries(
      view({
        parameters: { velocityMS: 2, lengthM: 0.05, densityKgM3: 1.27, viscosityPaS: 1.74e-5 },
        typed: { velocityMS: "7.2 km/h", temperature: "4 degC" },
      }),
    );
    expect(entries.parameters).toMatchObject({ velocityMS: "7.2 km/h", lengthM: "0.05 m" });
    expect(entries.temperature).toBe("4 degC");
    expect(entries.pressure).toBe("101325 Pa");
    expect(entries.reynolds).toBe("");
    expect(entries.limits).toEqual({ q1: "5 %" });
  });
  test("another code's physics are asked, the bench's are not; numerics the other way round", () => {
    const foreign = questionEntries(view({ physics: { time: "steady", model: "laminar", space: "plane", part: "half model", share: 0.5 } }));
    expect(foreign.physics).toMatchObject({ time: "steady", part: "half model", share: "0.5" });
    expect(foreign.stated).toEqual({ schemeOrder: "", dropOrders: "" });
    expect(foreign.scheme).toBeUndefined();
    const whole = questionEntries(view({ physics: { time: "steady", model: "laminar", space: "plane" }, stated: { schemeOrder: 2, dropOrders: 3 } }));
    expect(whole.physics?.share).toBe("");
    expect(whole.stated).toEqual({ schemeOrder: "2", dropOrders: "3" });
    const bench = questionEntries(
      view({ problemId: "lidded-box", parameters: { lidSpeedMS: 0.27, sideM: 0.05, densityKgM3: 1.27, viscosityPaS: 1.7e-5 } }),
    );
    expect([bench.physics, bench.stated, bench.scheme]).toEqual([undefined, undefined, "central"]);
    expect(bench.courant).toBeUndefined();
  });
  test("uncertainties carry the unit of their condition, sensitivities are plain numbers", () => {
    const { inputs } = questionEntries(view({ inputs: { velocityMS: { uncertainty: 0.02, sensitivities: { q1: 0.5 } } } }));
    expect(inputs.velocityMS).toEqual({ uncertainty: "0.02 m/s", sensitivities: { q1: "0.5" } });
    expect(inputs.lengthM).toEqual({ uncertainty: "", sensitivities: {} });
  });
  test("facts in the unit they were typed in, choices by their number, unknown ones empty", () => {
    const { facts } = questionEntries(view({ facts: { transitionReynolds: 2300 }, typed: {} }));
    expect(facts.transitionReynolds).toBe("2300");
    const others = Object.entries(facts).filter(([key]) => key !== "transitionReynolds");
    expect(others.length).toBeGreaterThan(20);
    expect(others.filter(([, text]) => text !== "")).toEqual([]);
  });
});

test("a limit is a percentage without digits nobody typed", () => {
  expect([0.05, 0.001, 1 / 3, 0.1 + 0.2].map(limitText)).toEqual(["5 %", "0.1 %", "33.3333 %", "30 %"]);
});
