import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { createCase, createYardstick, saveQuestion } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { exploreSolution, fittingSolutions, listLibrary, takeFromLibrary } from "./library.ts";
import { newCase, questionOf, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("library"));
});
afterAll(() => close());

const brought = () =>
  createCase(
    opened,
    newCase({
      parameters: { velocityMS: "0.05 m/s", lengthM: "10 mm", densityKgM3: "1.274 kg/m^3", viscosityPaS: "1.74e-5 Pa s" },
      quantityName: "flow",
      quantityUnit: "L/min",
    }),
  );
const take = {
  name: "Plates by formula",
  parameters: { pressureGradientPaM: "0 Pa/m", wallSpeedMS: "5 cm/s" },
  followed: ["gapM", "viscosityPaS", "densityKgM3"],
  values: [{ from: "mean", quantityKey: "q1", sign: 1 as const }],
  curves: [],
};

describe("the library on the server", () => {
  test("lists what it holds, and works a solution out at what was typed", async () => {
    expect(listLibrary().find((s) => s.id === "pipe")).toMatchObject({ name: "Round pipe", subject: "Ducts and plates", uncertainty: 0 });
    const found = await exploreSolution("pipe", { parameters: { diameterM: "2 cm" }, samples: 3 });
    expect(found.curves[0].points.length).toBe(3);
    await expect(exploreSolution("pipe", { parameters: { diameterM: "2 kg" } })).rejects.toMatchObject({
      details: { diameterM: expect.stringContaining("kg") },
    });
    await expect(exploreSolution("gone", { parameters: {} })).rejects.toThrow("no solution called gone");
  });
  test("ranks by the case, and refuses a figure of another kind, a parameter the case does not know, and nothing at all", async () => {
    const { id } = await brought();
    expect((await fittingSolutions(opened, id)).length).toBe(listLibrary().length);
    await expect(takeFromLibrary(opened, id, "plates", take)).rejects.toThrow("cannot stand for it");
    await expect(takeFromLibrary(opened, id, "plates", { ...take, followed: ["wallSpeedMS"] })).rejects.toThrow(
      "nothing that could stand for Speed of the sliding plate",
    );
    await expect(takeFromLibrary(opened, id, "plates", { ...take, values: [] })).rejects.toThrow("at least one");
    await expect(takeFromLibrary(opened, id, "plates", { ...take, values: [], curves: [{ from: "none", profileKey: "p" }] })).rejects.toThrow(
      "Choose a curve",
    );
    await expect(takeFromLibrary(opened, id, "plates", { ...take, parameters: { ...take.parameters, wallSpeedMS: "fast" } })).rejects.toMatchObject({
      details: { wallSpeedMS: expect.any(String) },
    });
  });
  test("a taken solution is a yardstick of the case, worked out when it is opened, with range and source", async () => {
    const { id } = await createCase(
      opened,
      newCase({
        quantityName: "speed",
        quantityUnit: "cm/s",
        parameters: { velocityMS: "0.05 m/s", lengthM: "10 mm", densityKgM3: "1.274 kg/m^3", viscosityPaS: "1.74e-5 Pa s" },
      }),
    );
    await takeFromLibrary(opened, id, "plates", take);
    const { evidence } = await openCase(opened, id);
    expect(evidence.yardsticks).toHaveLength(1);
    expect(evidence.yardsticks[0]).toMatchObject({ name: "Plates by formula", kind: "exact", typed: true, validity: { inside: true } });
    expect(evidence.yardsticks[0].values).toEqual([
      { quantityKey: "q1", value: expect.closeTo(2.5, 12), standardUncertainty: 0, uncertaintyNote: "exact" },
    ]);
    expect(evidence.yardsticks[0].source).toContain("Gap 0.01 m (the case's)");
  });
});

describe("conditions that are uncertain", () => {
  const PARAMETERS = { velocityMS: "0.05 m/s", lengthM: "10 mm", densityKgM3: "1.274 kg/m^3", viscosityPaS: "1.74e-5 Pa s" };
  const uncertain = (text: string) => ({ uncertainty: text, sensitivities: {} });
  test("a solution that follows them says how it answers: the flow between plates goes with one over the viscosity and the gap cubed", async () => {
    const { id } = await createCase(
      opened,
      newCase({
        parameters: PARAMETERS,
        quantityName: "mean speed",
        quantityUnit: "m/s",
      }),
    );
    const wish = {
      ...take,
      parameters: { pressureGradientPaM: "-0.01 Pa/m", wallSpeedMS: "0 m/s" },
      values: [{ from: "mean", quantityKey: "q1", sign: 1 as const }],
    };
    await takeFromLibrary(opened, id, "plates", wish);
    expect((await openCase(opened, id)).evidence.yardsticks[0].values[0]).not.toHaveProperty("answers");
    await saveQuestion(opened, id, questionOf({ parameters: PARAMETERS, inputs: { viscosityPaS: uncertain("2 %"), lengthM: uncertain("1 %") } }));
    const answers = (await openCase(opened, id)).evidence.yardsticks[0].values[0].answers;
    expect(answers?.viscosityPaS).toBeCloseTo(-1, 3);
    expect(answers?.lengthM).toBeCloseTo(2, 3);
    expect(Object.keys(answers ?? {}).sort()).toEqual(["lengthM", "viscosityPaS"]);
  });
  test("a template's own solution as well; a typed one as it was typed", async () => {
    const row = await createCase(opened, newCase({ problemId: "plates", parameters: { pressureGradientPaM: "-0.05" } }));
    await saveQuestion(opened, row.id, questionOf({ parameters: { pressureGradientPaM: "-0.05" }, inputs: { viscosityPaS: uncertain("2 %") } }));
    const flow = (await openCase(opened, row.id)).evidence.yardsticks[0].values;
    expect(flow.flatMap((v) => Object.keys(v.answers ?? {}))).toContain("viscosityPaS");
    const typed = {
      name: "Traverse",
      kind: "measured" as const,
      source: "bench book",
      validity: "",
      quantityKey: flow[0].quantityKey,
      value: "2",
      uncertainty: "",
    };
    await createYardstick(opened, row.id, { ...typed, answers: { viscosityPaS: "-1", gapM: "" } });
    const own = (await openCase(opened, row.id)).evidence.yardsticks.find((y) => y.name === "Traverse");
    expect(own?.values[0].answers).toEqual({ viscosityPaS: -1 });
    await expect(createYardstick(opened, row.id, { ...typed, answers: { viscosityPaS: "thin" } })).rejects.toMatchObject({
      details: { "answer-viscosityPaS": expect.any(String) },
    });
  });
});
