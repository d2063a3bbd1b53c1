import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { openStore, type Store } from "../db/store.ts";
import type { NewCaseInput, QuestionInput } from "./cases.ts";

/** A data folder of its own for one file of tests. */
export async function temporaryStore(name: string): Promise<{ store: Store; root: string; close: () => Promise<void> }> {
  const root = await mkdtemp(path.join(tmpdir(), `tin-ruler-${name}-`));
  const store = await openStore(path.join(root, "data"));
  const close = async () => {
    await store.close();
    await rm(root, { recursive: true, force: true });
  };
  return { store, root, close };
}

export const FOREIGN_PARAMETERS = { velocityMS: "2 m/s", lengthM: "50 mm", densityKgM3: "1.274 kg/m^3", viscosityPaS: "0.0174 cP" };

/** What the pages send for a case of another code. */
export const newCase = (change: Partial<NewCaseInput> = {}): NewCaseInput => ({
  title: "Curtain",
  purpose: "",
  problemId: null,
  fluidName: "air",
  temperature: "4 °C",
  pressure: "1.01325 bar",
  quantityName: "drag",
  quantityUnit: "N",
  parameters: FOREIGN_PARAMETERS,
  ...change,
});

export const questionOf = (change: Partial<QuestionInput> = {}): QuestionInput => ({
  title: "Curtain",
  purpose: "",
  fluidName: "air",
  temperature: "4 °C",
  pressure: "1.01325 bar",
  reynolds: "",
  kinematicViscosity: "",
  dropOrders: "6",
  limits: {},
  parameters: FOREIGN_PARAMETERS,
  ...change,
});
