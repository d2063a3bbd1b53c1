import AxeBuilder from "@axe-core/playwright";
import { type APIRequestContext, expect, type Page } from "@playwright/test";

const UNIFORM = { kind: "uniform" };
/** A strip between plates, as its form takes it. */
export const PLATES = {
  gapM: "10 mm",
  lengthM: "20 mm",
  wallSpeedMS: "0.1 m/s",
  pressureGradientPaM: "-0.05 Pa/m",
  densityKgM3: "1.274 kg/m^3",
  viscosityPaS: "1.74e-5 Pa s",
  ends: "0",
};

/** No finding of the accessibility rules on the page. Notices are asked to come and go without fading: half faded, they have no contrast. */
export async function sound(page: Page, rules: "of the standard" | "also the advised ones" = "of the standard"): Promise<void> {
  await page.emulateMedia({ reducedMotion: "reduce" });
  // A page that is just being drawn anew has no title for a moment.
  await expect(page).toHaveTitle(/./);
  const asked = new AxeBuilder({ page });
  if (rules === "of the standard") asked.withTags(["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]);
  else asked.disableRules(["region"]);
  const { violations } = await asked.analyze();
  await page.emulateMedia({ reducedMotion: null });
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(" ")}`)).toEqual([]);
}

/** Makes a case of a sliding strip with three meshes in the queue. @returns its id */
export async function strip(request: APIRequestContext, headers: Record<string, string>, title: string, wallSpeedMS: string): Promise<string> {
  const data = {
    title,
    problemId: "plates",
    purpose: "",
    fluidName: "air",
    temperature: "4 degC",
    pressure: "101325 Pa",
    parameters: { ...PLATES, wallSpeedMS },
  };
  const { id } = (await (await request.post("/api/cases", { headers, data })).json()) as { id: string };
  const family = { baseNx: 4, baseNy: 4, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM };
  expect((await request.post(`/api/cases/${id}/family`, { headers, data: family })).ok()).toBe(true);
  return id;
}

interface ForeignCase extends Readonly<Record<"title" | "quantity" | "unit" | "label" | "volume", string>> {
  readonly value: number;
  readonly cells: number;
  readonly dimension?: 2 | 3;
}

/** Makes a case of another code with one run in it, and a value of its quantity. */
export async function foreignRun(
  request: APIRequestContext,
  headers: Record<string, string>,
  { title, quantity, unit, value, label, cells, volume, dimension = 3 }: ForeignCase,
): Promise<{ readonly caseId: string; readonly runId: string }> {
  const post = async (path: string, data: object) => {
    const answer = await request.post(path, { headers, data });
    expect(answer.ok(), await answer.text()).toBe(true);
    return answer.json() as Promise<{ id: string }>;
  };
  const { id: caseId } = await post("/api/cases", {
    title,
    problemId: null,
    purpose: "",
    fluidName: "air",
    temperature: "4 degC",
    pressure: "101325 Pa",
    parameters: { velocityMS: "2 m/s", lengthM: "1 m", densityKgM3: "1.274 kg/m^3", viscosityPaS: "1.74e-5 Pa s" },
    quantityName: quantity,
    quantityUnit: unit,
  });
  const { id: runId } = await post(`/api/cases/${caseId}/bring-in`, {
    history: null,
    quantities: { name: "values.csv", text: `name,value,unit\n${quantity},${value},${unit}\n` },
    label,
    code: "Lintel",
    cells,
    volume,
    dimension,
    roles: [],
    rowRoles: ["quantity:q1"],
  });
  return { caseId, runId };
}

/** The same where the run itself is not asked for. @returns the case's id */
export const foreignCase = async (request: APIRequestContext, headers: Record<string, string>, said: ForeignCase): Promise<string> =>
  (await foreignRun(request, headers, said)).caseId;
