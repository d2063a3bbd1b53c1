import { appendFile, mkdir, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import { expect, type Page, test } from "@playwright/test";
import ExcelJS from "exceljs";
import { CURTAIN_TRUTH, curtainRuns } from "../demo/curtain.ts";
import { logText } from "../demo/logWriter.ts";
import { FOLDER } from "./server.ts";
import { sound } from "./strip.ts";

/** A new case for results of another code, by the form. @returns its id */
async function foreignCase(page: Page, title: string, quantity: string, unit: string, space = "three-dimensional"): Promise<string> {
  await page.goto("/new");
  await page.getByRole("radio", { name: "Results from another code" }).check();
  await page.getByLabel("Name of the case").fill(title);
  await page.getByLabel("First quantity").fill(quantity);
  await page.getByLabel("Its unit").fill(unit);
  await page.getByLabel("Space").selectOption(space);
  await page.getByRole("button", { name: "Make the case" }).click();
  await page.waitForURL("**/question");
  return new URL(page.url()).pathname.split("/")[2];
}

test("a record in time is brought in, averaged, read by hand; a quantity is worked out, a remark answered", async ({ page }) => {
  const id = await foreignCase(page, "Door curtain", "sealing efficiency", "1", "plane");

  await page.goto(`/cases/${id}/runs`);
  await page.getByRole("button", { name: "Bring in results" }).click();
  const run = curtainRuns()[2];
  await page
    .getByLabel("History: one line an iteration")
    .setInputFiles({ name: "curtain.csv", mimeType: "text/csv", buffer: Buffer.from(run.history) });
  await expect(page.getByLabel("Role of column time")).toHaveValue("time");
  await page.getByLabel("Name of the run").fill("D3");
  await page.getByLabel("Code", { exact: true }).fill("Lintel");
  await page.getByLabel("Cells", { exact: true }).fill("100000");
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
  await expect(averages.getByText(/^Dominant frequency \d/)).toBeVisible();
  await expect(averages.getByText("Unevenly sampled")).toBeVisible();

  // The start-up by hand: the handle moves by keys and the averages follow.
  const handle = page.getByRole("slider", { name: "average from" });
  const before = Number(await handle.getAttribute("aria-valuenow"));
  await handle.focus();
  await page.keyboard.press("Shift+ArrowRight");
  await expect(page.getByText("Read by hand: q1 averaged without its first")).toBeVisible();
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

  await page.getByLabel("Part modelled").selectOption("half model");
  await page.getByText("What else is known of the set-up").click();
  await page.getByLabel("Factor applied to forces in the file").fill("2");
  await page.getByLabel("Factor applied to forces here").fill("2");
  await page.getByRole("button", { name: "Save question" }).click();
  await page.getByRole("button", { name: "Save all the same" }).click();
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

test("a workbook is mapped by hand, its mapping kept and used again; a log is followed while it is written", async ({ page }) => {
  const id = await foreignCase(page, "Louvre by night", "reattachment length", "m");
  const book = new ExcelJS.Workbook();
  book.addWorksheet("notes").addRow(["made up"]);
  const sheet = book.addWorksheet("run");
  sheet.addRow(["it", "mass residual", "x_r"]);
  for (let n = 1; n <= 40; n++) sheet.addRow([n, 10 ** (-n / 8), 395 * (1 - 0.5 ** n)]);
  const file = { name: "louvre.xlsx", mimeType: "application/octet-stream", buffer: Buffer.from(await book.xlsx.writeBuffer()) };
  const size = async (label: string) => {
    await page.getByLabel("Name of the run").fill(label);
    await page.getByLabel("Code", { exact: true }).fill("Lintel");
    await page.getByLabel("Cells", { exact: true }).fill("40000");
    await page.getByLabel("Volume meshed").fill("1.08 m^3");
  };

  await page.goto(`/cases/${id}/runs`);
  await page.getByRole("button", { name: "Bring in results" }).click();
  await page.getByLabel("History: one line an iteration").setInputFiles(file);
  await page.getByLabel("Sheet").selectOption("run");
  await page.getByLabel("Role of column x_r").selectOption("quantity:q1");
  await page.getByLabel("Unit of column x_r").fill("kg");
  await expect(page.getByRole("alert").getByText("cannot be turned into m")).toBeVisible();
  await page.getByLabel("Unit of column x_r").fill("");
  await expect(page.getByRole("alert").getByText('The unit of "x_r" is not given')).toBeVisible();
  await page.getByLabel("Unit of column x_r").fill("mm");
  await expect(page.getByText("Cannot be read as it is")).toHaveCount(0);
  await page.getByRole("button", { name: "x_r", exact: true }).click();
  await expect(page.getByRole("figure", { name: "x_r against its rows" })).toBeVisible();
  await sound(page);
  await size("W1");
  await page.getByLabel("Keep this mapping as a recipe named").fill("Lintel workbook");
  await page.getByRole("button", { name: "Bring in as a run" }).click();
  await expect(page.getByTestId("run").getByText("0.39500")).toBeVisible();

  await page.getByRole("button", { name: "Bring in results" }).click();
  await page.getByLabel("History: one line an iteration").setInputFiles(file);
  await page.getByLabel("Sheet").selectOption("run");
  await expect(page.getByText("Read as the recipe “Lintel workbook” says")).toBeVisible();
  await expect(page.getByLabel("Unit of column x_r")).toHaveValue("mm");
  await page.getByRole("button", { name: "Forget the recipe Lintel workbook" }).click();
  await page.getByRole("button", { name: "Forget", exact: true }).click();
  await expect(page.getByText("Recipes kept")).toHaveCount(0);
  await page.getByRole("button", { name: "Close" }).click();

  // Flows of a half model, counted positive throughout: asked about until the file is read by its names.
  const flows =
    "name,value,unit\nreattachment length,395,mm\nmass flow inlet,0.45,kg/s\nmass flow outlet,449.9,g/s\nheat flow inlet,2.1,kW\nheat flow outlet,2.1,kW\n";
  const bringFlows = async (label: string, signs: string) => {
    await page.goto(`/cases/${id}/runs`);
    await page.getByRole("button", { name: "Bring in results" }).click();
    await page
      .getByLabel("Quantities: name, value, unit (CSV)")
      .setInputFiles({ name: "flows.csv", mimeType: "text/csv", buffer: Buffer.from(flows) });
    await page.getByLabel("Flows through boundaries are counted").selectOption(signs);
    await page.getByLabel("The model is one of so many equal parts").fill("2");
    await size(label);
    await page.getByRole("button", { name: "Bring in as a run" }).click();
    await expect(page.getByTestId("run").filter({ hasText: label })).toBeVisible();
    await page.goto(`/cases/${id}/balance`);
  };
  await bringFlows("H1", "outward");
  await expect(page.getByText("the file counts every flow positive").first()).toBeVisible();
  await bringFlows("H2", "by-name");
  await expect(page.getByText("the model is one of 2 parts, and the flows of the file were multiplied by 2, once")).toBeVisible();
  await expect(page.getByRole("row", { name: /inlet/ })).toContainText("−0.9000");
  await expect(page.getByRole("row", { name: /inlet/ })).toContainText("−4200");
  await expect(page.getByText("the file counts every flow positive")).toHaveCount(0);
  await page.goto(`/cases/${id}/runs`);

  const log = path.join(FOLDER, "logs", "night.log");
  const lines = [...logText(60)];
  await mkdir(path.dirname(log), { recursive: true });
  await writeFile(log, `${lines.slice(0, 10).join("\n")}\n`);
  await page.getByRole("button", { name: "Bring in results" }).click();
  const logs = page.getByLabel("or a log on the server");
  await logs.selectOption(await logs.locator("option", { hasText: "night.log" }).getAttribute("value"));
  await expect(page.getByLabel("Role of column reattachment_length")).toHaveValue("quantity:q1");
  await size("night");
  await page.getByRole("button", { name: "Follow as a run" }).click();
  const run = page.getByTestId("run").filter({ hasText: "night" });
  await expect(run.getByText("followed")).toBeVisible();
  await appendFile(log, `${lines.slice(10).join("\n")}\n`);
  await expect(run.getByRole("cell").nth(2)).toHaveText("60");
  await run.getByRole("button", { name: "End following" }).click();
  await expect(run.getByText("done")).toBeVisible();
  await rm(log);
});
