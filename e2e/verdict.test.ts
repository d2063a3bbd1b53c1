import { expect, type Locator, type Page, test } from "@playwright/test";
import { lintelRuns } from "../demo/lintel.ts";
import { sound } from "./strip.ts";

/** Counts what a person does: one for every entry filled, choice made, button or link pressed, file chosen, page opened. */
class Hand {
  actions = 0;
  constructor(private readonly page: Page) {}
  async open(url: string) {
    this.actions++;
    await this.page.goto(url);
  }
  async press(what: Locator) {
    this.actions++;
    await what.click();
  }
  async fill(what: Locator, text: string) {
    this.actions++;
    await what.fill(text);
  }
  async choose(what: Locator, value: string) {
    this.actions++;
    await what.selectOption(value);
  }
  async files(what: Locator, files: { name: string; text: string }[]) {
    this.actions++;
    await what.setInputFiles(files.map((f) => ({ name: f.name, mimeType: "text/csv", buffer: Buffer.from(f.text) })));
  }
}

test("from four files to a verdict and an issued report in at most forty actions", async ({ page, request, baseURL }) => {
  const hand = new Hand(page);
  await hand.open("/new");
  await hand.press(page.getByRole("radio", { name: "Results from another code" }));
  await hand.fill(page.getByLabel("Name of the case"), "Louvre in four files");
  await hand.fill(page.getByLabel("First quantity"), "reattachment length");
  await hand.fill(page.getByLabel("Its unit"), "m");
  await hand.fill(page.getByLabel("Reference velocity"), "2 m/s");
  await hand.fill(page.getByLabel("Reference length"), "50 mm");
  await hand.fill(page.getByLabel("Dynamic viscosity"), "0.0174 cP");
  await hand.press(page.getByRole("button", { name: "Make the case" }));
  await page.waitForURL("**/question");
  const id = new URL(page.url()).pathname.split("/")[2];
  await expect(page.getByLabel("Dynamic viscosity", { exact: true })).toHaveValue("0.0174 cP");

  await hand.choose(page.getByLabel("Order of its convective scheme"), "2");
  await hand.fill(page.getByLabel("Orders it let residuals fall"), "7");
  await hand.press(page.getByText("How well the conditions are known"));
  await hand.fill(page.getByLabel("Reference velocity, ±"), "1 %");
  await hand.fill(page.getByLabel("reattachment length per reference velocity"), "0.5");
  await hand.press(page.getByRole("button", { name: "Save question" }));
  await expect(page.getByText("The question was saved.")).toBeVisible();

  await hand.open(`/cases/${id}/yardsticks`);
  await hand.press(page.getByRole("button", { name: "Add a value" }));
  await hand.fill(page.getByLabel("Name", { exact: true }), "Wind box traverse");
  await hand.fill(page.getByRole("textbox", { name: "Source" }), "traverse 7, made up");
  await hand.fill(page.getByLabel("Value, any unit"), "418 mm");
  await hand.fill(page.getByLabel("Uncertainty at 95 %, or empty"), "8 mm");
  await hand.press(page.getByRole("button", { name: "Add yardstick" }));
  await expect(page.getByRole("region", { name: "Wind box traverse" })).toBeVisible();

  // Three records and one table of flows; labels and cell counts come from the names of the files.
  await hand.open(`/cases/${id}/runs`);
  await hand.press(page.getByRole("button", { name: "Bring in results" }));
  const settled = (k: number) => {
    const lines = lintelRuns()[Math.min(k, 1)].history.trim().split("\n");
    const value = [0.3964, 0.4086, 0.4147][k];
    return lines
      .map((line, i) =>
        i ? [...line.split(",").slice(0, 4), value * (1 - 0.1 * Math.exp(-i / 20))].join(",") : line.split(",").slice(0, 5).join(","),
      )
      .join("\n");
  };
  const names = ["L1 coarse 96k.csv", "L2 medium 310k.csv", "L3 fine 1.02M.csv"];
  const flows = "name,value,unit\nmass flow inlet,-0.9174,kg/s\nmass flow outlet,917.37,g/s\n";
  await hand.files(page.getByLabel("History: one line an iteration"), [
    ...names.map((name, k) => ({ name, text: settled(k) })),
    { name: "L3 fine flows.csv", text: flows },
  ]);
  await expect(page.getByRole("heading", { name: "3 runs of one family" })).toBeFocused();
  await expect(page.getByLabel("Cells of run 3")).toHaveValue("1020000");
  await expect(page.getByLabel("Name of run 1")).toHaveValue("L1 coarse 96k");
  await expect(page.getByLabel("Table of run 3")).toHaveValue("L3 fine flows.csv");
  await expect(page.getByLabel("Role of mass flow outlet")).toHaveValue("boundary-mass");
  await hand.fill(page.getByLabel("Code", { exact: true }), "Lintel");
  await hand.fill(page.getByLabel("Volume meshed"), "1.08 m^3");
  await hand.press(page.getByRole("button", { name: "Bring in 3 runs" }));
  await expect(page.getByTestId("run")).toHaveCount(3);

  await hand.open(`/cases/${id}/verdict`);
  const margin = page.getByRole("complementary");
  await expect(margin.getByText("incomplete", { exact: true })).toBeVisible();
  await expect(margin.getByText("Cheapest next step")).toBeVisible();
  await hand.press(page.getByRole("button", { name: "Settle domain" }));
  await expect(page.getByLabel("How domain is settled")).toBeFocused();
  await hand.choose(page.getByLabel("How domain is settled"), "not-applicable");
  await hand.fill(page.getByLabel("Because"), "the wind box has walls all round");
  await hand.fill(page.getByLabel("Signed, initials"), "H. M.");
  await hand.press(page.getByRole("button", { name: "Settle it" }));
  await expect(page.getByTestId("source-domain")).toContainText("does not apply by H. M.".replace("does", "Does"));
  await expect(margin.getByText("incomplete", { exact: true })).toHaveCount(0);
  const word = await margin.locator("p.font-mono").first().textContent();
  expect(["holds", "holds with a remark"]).toContain(word);

  await hand.open(`/cases/${id}/report`);
  await hand.fill(page.getByLabel("Issued by, initials"), "H. M.");
  await hand.press(page.getByRole("button", { name: "Issue report 1" }));
  await expect(page.getByRole("link", { name: "Page 1" })).toBeVisible({ timeout: 60_000 });
  expect(hand.actions).toBeLessThanOrEqual(40);

  const report = await (await request.get(`/api/cases/${id}/reports/1/json`)).json();
  expect(report.verdicts[0].word).toBe(word);
  const sources = report.tables.find((t: { key: string }) => t.key === "sources").rows;
  expect(sources.find((r: string[]) => r[1] === "domain")[3]).toContain("walls all round");
  const set = report.tables.find((t: { key: string }) => t.key === "setup").rows;
  expect(set.find((r: unknown[]) => r[0] === "Temperature")?.slice(1)).toEqual([277.15, "K"]);

  // The temperature is a condition of the other code's runs: they are stale; how they are judged is none.
  await page.goto(`/cases/${id}/question`);
  await page.getByLabel("Orders residuals are to fall to count as settled").fill("5");
  await page.getByRole("button", { name: "Save question" }).click();
  await expect(page.getByText("The question was saved.")).toBeVisible();
  await page.goto(`/cases/${id}/verdict`);
  await expect(margin.locator("p.font-mono").first()).toHaveText(word ?? "");
  await page.goto(`/cases/${id}/question`);
  await page.getByLabel("Temperature", { exact: true }).fill("20");
  await page.getByRole("button", { name: "Save question" }).click();
  await expect(page.getByText("write 20 °C, 20 °F or 20 K").first()).toBeVisible();
  await page.getByLabel("Temperature", { exact: true }).fill("20 °C");
  await page.getByRole("button", { name: "Save question" }).click();
  await page.getByRole("button", { name: "Save all the same" }).click();
  // A page that is left before it was answered may not have asked.
  await expect(page.getByText("The question was saved.")).toBeVisible();
  await page.goto(`/cases/${id}/verdict`);
  await expect(margin.getByText("stale", { exact: true })).toBeVisible();

  // Flows of a stored run are replaced only when asked.
  await page.goto(`/cases/${id}/runs`);
  const fine = page.getByTestId("run").filter({ hasText: "L3 fine" });
  await fine.getByRole("button", { name: "Add values" }).click();
  const add = page.getByRole("region", { name: "Add to L3 fine 1.02M" });
  await expect(add.getByLabel("Quantities: name, value, unit (CSV)")).toBeFocused();
  await add
    .getByLabel("Quantities: name, value, unit (CSV)")
    .setInputFiles({ name: "again.csv", mimeType: "text/csv", buffer: Buffer.from(flows.replace("917.37", "917.4")) });
  await add.getByRole("button", { name: "Add to the run" }).click();
  await expect(page.getByText("has the flows through its boundaries already").first()).toBeVisible();
  await add.getByLabel("replace what the run has already").check();
  await add.getByRole("button", { name: "Add to the run" }).click();
  await expect(add).toHaveCount(0);

  await sound(page);
  const wrong = await request.post(`/api/cases/${id}/settlements`, {
    headers: { origin: baseURL ?? "" },
    data: { source: "domain", quantityKey: null, kind: "bounded", value: "much", reason: "x", by: "y" },
  });
  expect(wrong.status()).toBe(422);
  expect((await wrong.json()).details.value).toContain("does not begin with a number");
});

test("a frequency is compared with a published one and carries its uncertainty", async ({ page }) => {
  await page.goto("/new");
  await page.getByRole("radio", { name: "Results from another code" }).check();
  await page.getByLabel("Name of the case").fill("Post that sheds");
  await page.getByLabel("First quantity").fill("shedding frequency");
  await page.getByLabel("Its unit").fill("Hz");
  await page.getByLabel("Time").selectOption("transient");
  await page.getByLabel("Space").selectOption("plane");
  await page.getByRole("button", { name: "Make the case" }).click();
  await page.waitForURL("**/question");
  const id = new URL(page.url()).pathname.split("/")[2];
  await page.goto(`/cases/${id}/runs`);
  await page.getByRole("button", { name: "Bring in results" }).click();
  const rows = Array.from(
    { length: 3000 },
    (_, i) => `${(0.01 * i).toFixed(2)},${(0.3 * Math.sin(2 * Math.PI * 1.7 * 0.01 * i) + 0.02 * Math.sin(i * i)).toFixed(6)}`,
  );
  await page
    .getByLabel("History: one line an iteration")
    .setInputFiles({ name: "lift.csv", mimeType: "text/csv", buffer: Buffer.from(`time (s),lift (N)\n${rows.join("\n")}\n`) });
  await page.getByLabel("Role of column lift").selectOption("quantity:q1");
  // The record is in newtons; as a frequency it needs no conversion, which has to be said first.
  await expect(page.getByRole("alert").getByText("cannot be turned into Hz")).toBeVisible();
  await page.getByLabel("Unit of column lift").fill("Hz");
  await page.getByLabel("Name of the run").fill("P1");
  await page.getByLabel("Code", { exact: true }).fill("Lintel");
  await page.getByLabel("Cells", { exact: true }).fill("20000");
  await page.getByLabel("Area meshed").fill("1 m^2");
  await page.getByRole("button", { name: "Bring in as a run" }).click();
  await expect(page.getByTestId("run")).toHaveCount(1);
  await page.goto(`/cases/${id}/settling`);
  await page.getByLabel("Value of shedding frequency, in every run").selectOption("strouhal");
  await expect(page.getByText("shedding frequency is in Hz; a Strouhal number is a pure number").first()).toBeVisible();
  await page.getByLabel("Value of shedding frequency, in every run").selectOption("frequency");
  await expect(page.getByRole("complementary").getByText("The dominant frequency counts")).toBeVisible();
  await page.goto(`/cases/${id}/verdict`);
  await expect(page.getByTestId("source-averaging")).toContainText("Dominant frequency of");
  await expect(page.getByTestId("source-time-step")).toContainText("open");
  await expect(page.getByText("1.7000 Hz")).toBeVisible();
});

for (const [width, height] of [
  [1024, 768],
  [1920, 1080],
])
  test(`nothing runs off the page at ${width} pixels; the margin folds and the skip link leads to the content`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await page.goto("/");
    // A second try of the test above makes a second case.
    await page.getByRole("link", { name: "Louvre in four files", exact: true }).last().click();
    await page.waitForURL("**/question**");
    const id = new URL(page.url()).pathname.split("/")[2];
    for (const stage of ["question", "runs", "refinement", "verdict"]) {
      await page.goto(`/cases/${id}/${stage}`);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
    }
    const rule = page.getByLabel("Error sources on a logarithmic scale");
    await expect(rule).toHaveAttribute("width", String(width));
    const fold = page.getByRole("button", { name: width < 1100 ? "Unfold the margin" : "Fold the margin" });
    await fold.click();
    await expect(page.getByRole("button", { name: width < 1100 ? "Fold the margin" : "Unfold the margin" })).toBeVisible();
    await page.goto("/");
    await page.keyboard.press("Tab");
    await expect(page.getByRole("link", { name: "Skip to the content" })).toBeFocused();
    await page.keyboard.press("Enter");
    await expect(page.locator("#main")).toBeFocused();
  });
