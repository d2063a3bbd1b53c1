import { expect, test } from "@playwright/test";
import { PLATES } from "./strip.ts";

const UNIFORM = { kind: "uniform" };

test("four meshes by every procedure; a rung is left out, a procedure adopted, both signed, printed and taken back", async ({
  page,
  request,
  baseURL,
}) => {
  const headers = { origin: baseURL ?? "" };
  const made = await request.post("/api/cases", {
    headers,
    data: {
      title: "Strip on four meshes",
      problemId: "plates",
      purpose: "Which procedure stands?",
      fluidName: "air",
      temperature: "4 degC",
      pressure: "101325 Pa",
      parameters: PLATES,
    },
  });
  const { id } = (await made.json()) as { id: string };
  const family = { baseNx: 6, baseNy: 6, ratio: 1.5, count: 4, gradingX: UNIFORM, gradingY: UNIFORM };
  expect((await request.post(`/api/cases/${id}/family`, { headers, data: family })).ok()).toBe(true);
  await page.goto(`/cases/${id}/runs`);
  await expect(page.getByTestId("run").filter({ hasText: "done" })).toHaveCount(4);

  await page.goto(`/cases/${id}/refinement`);
  const procedure = (name: string) => page.getByRole("row", { name: new RegExp(`^${name}`) }).first();
  await expect(procedure("least squares")).toBeVisible();
  await expect(procedure("factor of safety")).toContainText("%");
  await expect(page.getByText(/decides the mesh: its uncertainty takes/)).toBeVisible();
  await expect(page.getByRole("img", { name: "every quantity against mesh spacing" })).toBeVisible();

  // Whole fields on one mesh, in a worker; four pictures probed and sampled together.
  const fields = page.getByRole("region", { name: "Fields on one mesh" });
  await fields.getByLabel("Field", { exact: true }).selectOption("u");
  await fields.getByRole("button", { name: "Compare the fields" }).press("Enter");
  await expect(fields.getByText("All meshes were brought to 9 × 9 as averages over its cells")).toBeVisible();
  await expect(fields.getByText(/falls at order \d\.\d\d, formal 2\. Of the area/)).toBeVisible();
  await expect(fields.getByRole("row", { name: /^14 × 14 less 20 × 20/ })).toBeVisible();
  const pictures = fields.getByRole("img", { name: /Arrow keys move/ });
  await expect(pictures).toHaveCount(4);
  await expect(fields.getByLabel("Picture 4 shows")).toHaveValue("error");
  await fields.getByLabel("Picture 2 shows").selectOption({ label: "uncertainty of 20 × 20, 95 %" });
  await pictures.nth(0).hover();
  await expect(fields.getByText(/^x 0\.0/)).toHaveCount(4);
  await fields.getByRole("button", { name: "sample a line through all" }).click();
  await pictures.nth(1).click({ position: { x: 120, y: 60 } });
  await pictures.nth(1).click({ position: { x: 250, y: 150 } });
  await expect(fields.getByRole("region", { name: "Values along the line" })).toHaveCount(4);

  // By keyboard: the form opens with its first entry ready, and Enter sends it.
  await page.getByRole("button", { name: "Leave out 6 × 6" }).press("Enter");
  await expect(page.getByLabel("Leave 6 × 6 out, because")).toBeFocused();
  await page.keyboard.type("six cells resolve nothing");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Sign it; initials are enough.", { exact: true })).toBeVisible();
  await expect(page.getByLabel("Leave 6 × 6 out, because")).toHaveValue("six cells resolve nothing");
  await page.getByLabel("Signed, initials").fill("K. B.");
  await page.keyboard.press("Enter");
  await expect(page.getByText("6 × 6 was left out of the ladders.")).toBeVisible();
  const taken = page.getByRole("row").filter({ has: page.getByRole("button", { name: "Take back 6 × 6" }) });
  await expect(taken).toContainText("left out by K. B.: six cells resolve nothing");
  await expect(procedure("least squares")).toHaveCount(0);

  await page.getByRole("button", { name: "Adopt the factor of safety" }).click();
  await page.getByLabel("Adopt the factor of safety, because").fill("agreed for this programme");
  await page.getByLabel("Signed, initials").fill("K. B.");
  await page.getByRole("button", { name: "Adopt the factor of safety", exact: true }).last().click();
  await expect(page.getByText("Factor of safety: chosen by K. B., agreed for this programme.")).toBeVisible();
  await expect(procedure("factor of safety")).toContainText("stands");

  const assessment = (await (await request.get(`/api/cases/${id}/assessment`)).json()) as {
    refinement: { key: string; adopted: { key: string }; relative: number }[];
    rules: { sources: { key: string; relative?: number }[] }[];
  };
  expect(assessment.refinement[0].adopted.key).toBe("factor-of-safety");
  expect(assessment.rules[0].sources.find((s) => s.key === "mesh")?.relative).toBe(assessment.refinement[0].relative);

  await page.getByRole("button", { name: "Follow the rule again" }).click();
  await expect(page.getByText("Three-mesh index: three rungs allow no other.")).toBeVisible();
  await page.getByRole("button", { name: "Take back 6 × 6" }).click();
  await expect(procedure("least squares")).toBeVisible();

  // Runs that differ in their tolerance alone, on one mesh: planned here, and a ladder once they are done.
  await page.getByRole("button", { name: "Plan a ladder" }).click();
  const plan = page.getByRole("region", { name: "Plan a ladder" });
  await expect(plan.getByLabel("Along")).toBeFocused();
  await plan.getByLabel("On the mesh").selectOption({ label: "9 × 9" });
  await plan.getByLabel(/^Orders residuals are to fall; the case has/).fill("8");
  await plan.getByRole("button", { name: "Run them" }).click();
  await expect(plan.getByText("8 is what the case itself has: name others.")).toBeVisible();
  await plan.getByLabel(/^Orders residuals are to fall; the case has/).fill("5; 10");
  await page.keyboard.press("Enter");
  await expect(page.getByText("The runs of the ladder are in the queue.")).toBeVisible();
  await expect(async () => {
    await page.reload();
    await expect(page.getByRole("heading", { name: "Stopping tolerance, on 9 × 9" })).toBeVisible({ timeout: 2000 });
    await expect(page.getByRole("cell", { name: "10 orders" })).toBeVisible({ timeout: 1000 });
  }).toPass();

  // On autopilot from the meshes that are there: reached, with a reason for each step.
  await page.getByRole("button", { name: "Take flow rate per depth to an uncertainty" }).click();
  await page.getByLabel("Uncertainty at 95 %", { exact: true }).fill("soon");
  await page.getByRole("button", { name: "Go", exact: true }).click();
  await expect(page.getByText(/"soon"/).first()).toBeVisible();
  await page.getByLabel("Uncertainty at 95 %", { exact: true }).fill("0.1 %");
  await page.getByLabel("Uncertainty at 95 %", { exact: true }).press("Enter");
  const pilot = page.getByTestId("pilot");
  await expect(pilot).toContainText("Flow rate per depth to 0.10 %");
  await expect(pilot).toContainText("Reached: the numerical uncertainty of the flow rate per depth is");
  await expect(pilot.getByRole("listitem").first()).toContainText("The mesh is the largest part");
  await page.goto(`/cases/${id}/runs`);
  await expect(page.getByTestId("run")).not.toHaveCount(4);
});
