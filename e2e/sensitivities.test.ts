import { expect, test } from "@playwright/test";
import { sound } from "./strip.ts";

test("conditions with their uncertainty: runs tell what a quantity answers to, the chart shows it, and the rule gets its source", async ({
  page,
}) => {
  await page.goto("/new");
  await page.getByRole("radio", { name: /Flow between plates/ }).check();
  await page.getByLabel("Name of the case").fill("Gap, how well known");
  await page.getByRole("button", { name: "Make the case" }).click();
  await page.waitForURL("**/question");
  const path = new URL(page.url()).pathname;
  await page.getByText("How well the conditions are known").click();
  await page.getByLabel("Gap between the plates, ±").fill("1 %");
  await page.getByLabel("Speed of the upper plate, ±").fill("2 %");
  await page.getByRole("button", { name: "Add a correlation" }).click();
  await page.getByLabel("Correlation", { exact: true }).fill("1.5");
  await page.getByRole("button", { name: "Save question" }).click();
  await expect(page.getByText("A coefficient of correlation lies between -1 and 1.").first()).toBeVisible();
  await page.getByLabel("Correlation", { exact: true }).fill("-1");
  await page.getByRole("button", { name: "Save question" }).click();

  const answers = page.getByRole("region", { name: "What the conditions make of it" });
  await expect(answers.getByTestId("inputs-together")).toContainText("is not known yet");
  await answers.getByLabel("Cells along x").fill("8");
  await answers.getByLabel(/along y/).fill("8");
  await answers.getByRole("button", { name: "Run 5 cases" }).click();
  await expect(async () => {
    await page.goto(path);
    await expect(answers.getByTestId("inputs-together")).toContainText("Together", { timeout: 1000 });
    await expect(answers.getByText("by central differences")).toHaveCount(2, { timeout: 1000 });
  }).toPass({ timeout: 120_000 });
  // The flow rate between a plate at rest and one that slides goes with the gap and with the speed; fully against each other, two percent less one is left.
  await expect(answers.getByRole("row", { name: /Speed of the upper plate/ })).toContainText("±2.0");
  await expect(answers.getByTestId("inputs-together")).toContainText(/Together ±1\.0/);
  await expect(answers.getByRole("img", { name: /What the inputs make of/ })).toBeVisible();
  await sound(page, "also the advised ones");
});
