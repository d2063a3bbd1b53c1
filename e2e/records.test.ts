import { expect, type Page, test } from "@playwright/test";
import { CURTAIN_TRUTH, curtainRuns } from "../demo/curtain.ts";

const idOf = (page: Page) => new URL(page.url()).pathname.split("/")[2];

test("a record in time is brought in, averaged, read by hand; a quantity is worked out, a remark answered", async ({ page }) => {
  await page.goto("/new");
  await page.getByRole("radio", { name: "Results from another code" }).check();
  await page.getByLabel("Name of the case").fill("Door curtain");
  await page.getByLabel("First quantity").fill("sealing efficiency");
  await page.getByLabel("Its unit").fill("1");
  await page.getByRole("button", { name: "Make the case" }).click();
  await page.waitForURL("**/question");
  const id = idOf(page);

  await page.goto(`/cases/${id}/runs`);
  await page.getByRole("button", { name: "Bring in results" }).click();
  const run = curtainRuns()[2];
  await page
    .getByLabel("History: one line an iteration (CSV)")
    .setInputFiles({ name: "curtain.csv", mimeType: "text/csv", buffer: Buffer.from(run.history) });
  await expect(page.getByLabel("Role of column time")).toHaveValue("time");
  await page.getByLabel("Name of the run").fill("D3");
  await page.getByLabel("Code", { exact: true }).fill("Lintel");
  await page.getByLabel("Cells", { exact: true }).fill("100000");
  await page.getByLabel("Mesh", { exact: true }).selectOption("2");
  await page.getByLabel("Area meshed").fill("7.2 m^2");
  await page.getByRole("button", { name: "Bring in as a run" }).click();
  await expect(page.getByTestId("run")).toHaveCount(1);

  await page.goto(`/cases/${id}/settling`);
  const averages = page.getByRole("region", { name: "Averages" });
  const row = averages.getByRole("row", { name: /sealing efficiency/ });
  const mean = Number(await row.getByRole("cell").nth(1).textContent());
  const uncertainty = Number(await row.getByRole("cell").nth(2).textContent());
  expect(Math.abs(mean - run.truth.sealing)).toBeLessThan(1.2 * uncertainty);
  await expect(row.getByText(`${CURTAIN_TRUTH.swayHz}`.slice(0, 4), { exact: false })).toBeVisible();
  await expect(averages.getByText("Dominant frequency")).toBeVisible();
  await expect(averages.getByText("Unevenly sampled")).toBeVisible();

  // The start-up by hand: the handle moves by keys and the averages follow.
  const handle = page.getByRole("slider", { name: "average from" });
  const before = Number(await handle.getAttribute("aria-valuenow"));
  await handle.focus();
  await page.keyboard.press("Shift+ArrowRight");
  await expect(page.getByText("Read by hand: averages without the first")).toBeVisible();
  await expect(async () => expect(Number(await handle.getAttribute("aria-valuenow"))).toBeGreaterThan(before + 1)).toPass();
  await page.getByRole("button", { name: "Leave it to the tests" }).click();
  await expect(page.getByText("Read by hand")).toHaveCount(0);

  await page.goto(`/cases/${id}/question`);
  await page.getByRole("button", { name: "Work out a quantity" }).click();
  const form = page.getByRole("group", { name: "Work out a quantity" });
  await form.getByLabel("Name", { exact: true }).fill("air let through");
  await form.getByLabel("Formula").fill("(1 - q1) * velocityMS");
  await form.getByLabel("Unit, 1 for none").fill("kg");
  await form.getByRole("button", { name: "Work it out" }).click();
  await expect(form.getByText(/gives .*not kg/)).toBeVisible();
  await form.getByLabel("Unit, 1 for none").fill("m/s");
  await form.getByRole("button", { name: "Work it out" }).click();
  await expect(page.getByText("= (1 - q1) * velocityMS")).toBeVisible();

  await page.getByText("What else is known of the set-up").click();
  await page.getByLabel("Share of the body that is modelled").fill("0.5");
  await page.getByLabel("Factor applied to forces in the file").fill("2");
  await page.getByLabel("Factor applied to forces here").fill("2");
  await page.getByRole("button", { name: "Save question" }).click();
  const remark = page.getByText("The file already multiplied forces by");
  await expect(remark.first()).toBeVisible();
  await page.getByRole("button", { name: "accept it" }).first().click();
  await page.getByLabel("Accepted because").fill("the table was made before the switch");
  await page.getByRole("button", { name: "Keep the answer" }).click();
  await expect(page.getByText("because the table was made before the switch")).toBeVisible();

  await expect(page.getByText("from its parts, 95 %")).toHaveCount(1);

  await page.getByRole("button", { name: "Compare with another case's set-up" }).click();
  const compare = page.getByLabel("Compare with", { exact: true });
  await expect(compare).toBeVisible();
  if ((await compare.locator("option").count()) > 1) {
    await compare.selectOption({ index: 1 });
    await expect(page.getByRole("cell", { name: "facts", exact: true })).toBeVisible();
  } else await expect(page.getByText("there is no other case")).toBeAttached();

  // What was worked out has its own record and average.
  await page.goto(`/cases/${id}/settling?quantity=d1`);
  await expect(averages.getByRole("row", { name: /air let through/ })).toBeVisible();
});
