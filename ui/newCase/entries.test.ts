import { expect, test } from "vitest";
import { DESCRIPTIONS } from "@/core/problems/describe/catalogue";
import { FROM_FILES, inputOf, parameterBy, startEntries, templateEntries } from "./entries";

test("every template starts with a text for each of its parameters, in the parameter's unit", () => {
  for (const p of DESCRIPTIONS) {
    const { parameters } = templateEntries(p.id);
    expect(Object.keys(parameters)).toEqual(p.parameters.map((s) => s.key));
    for (const s of p.parameters) {
      expect(Number.parseFloat(parameters[s.key])).toBeCloseTo(s.preset, 9);
      if (!s.choices && s.unit) expect(parameters[s.key].endsWith(` ${s.unit}`)).toBe(true);
    }
  }
});

test("a similarity number sets its parameter, with its unit: the box's Reynolds number of 1000 gives its own lid speed back, half of it half", () => {
  const typed = startEntries("lidded-box");
  const by = (re: string) => parameterBy("lidded-box", "reynolds", { ...typed, similarity: { reynolds: re } });
  const preset = Number.parseFloat(typed.parameters.lidSpeedMS);
  expect(by("1000")?.key).toBe("lidSpeedMS");
  expect(Number.parseFloat(by("1000")?.text ?? "")).toBeCloseTo(preset, 6);
  expect(Number.parseFloat(by("500")?.text ?? "")).toBeCloseTo(preset / 2, 6);
  expect(by("500")?.text.endsWith(" m/s")).toBe(true);
});

test("every similarity number of every template sets a parameter that the template has", () => {
  for (const p of DESCRIPTIONS)
    for (const s of p.similarity ?? []) expect([p.id, parameterBy(p.id, s.key, startEntries(p.id))?.key]).toEqual([p.id, s.sets]);
});

test("a similarity number nobody can reach sets nothing", () => {
  const p = DESCRIPTIONS.find((x) => x.similarity?.length);
  const key = p?.similarity?.[0].key ?? "";
  const typed = startEntries(p?.id ?? "");
  expect(parameterBy(p?.id ?? "", key, { ...typed, similarity: { [key]: "many" } })).toBeUndefined();
  expect(parameterBy(p?.id ?? "", "no such number", typed)).toBeUndefined();
});

test("physics and a first quantity are sent only for results from files, formulas only where they are asked", () => {
  const files = inputOf(FROM_FILES, { ...startEntries(FROM_FILES), quantityName: "lift coefficient" });
  expect(files).toMatchObject({ problemId: null, physics: { time: "steady" }, quantityKind: "cross-force" });
  expect(files.formulas).toBeUndefined();
  const plates = inputOf("plates", startEntries("plates"));
  expect(plates).not.toHaveProperty("physics");
  expect(plates).not.toHaveProperty("quantityKind");
  expect(plates).not.toHaveProperty("similarity");
  const written = DESCRIPTIONS.find((p) => p.formulas);
  expect(Object.keys(inputOf(written?.id ?? "", startEntries(written?.id ?? "")).formulas ?? {})).toEqual(written?.formulas?.map((f) => f.key));
});
