import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { createCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { exploreSolution, fittingSolutions, listLibrary, takeFromLibrary } from "./library.ts";
import { newCase, temporaryStore } from "./testStore.ts";

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
