import { expect, type Page, test } from "@playwright/test";
import { unzipSync } from "fflate";
import { lintelRuns } from "../demo/lintel.ts";
import { sound } from "./strip.ts";

test.describe.configure({ mode: "serial" });

const STAGES = ["question", "yardsticks", "meshes", "runs", "settling", "balance", "refinement", "comparison", "verdict", "report"];
/** The cases of a second try have names of their own: those of the first are still there. */
const named = (name: string) => (test.info().retry ? `${name} once more` : name);
let strip = "";
let louvre = "";

const idOf = (page: Page) => new URL(page.url()).pathname.split("/")[2];

test("what is typed before the page listens is not lost", async ({ page }) => {
  await page.route("**/_next/static/**/*.js", async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1000));
    await route.continue();
  });
  await page.goto("/new", { waitUntil: "commit" });
  await page.getByLabel("Name of the case").fill("Early bird");
  await expect(page.getByRole("button", { name: "Make the case" })).toBeEnabled();
  await expect(page.getByLabel("Name of the case")).toHaveValue("Early bird");
});

test("from a template to the issued report", async ({ page }) => {
  await page.goto("/new");
  await page.getByLabel("Name of the case").fill(named("Strip with a draught"));
  await page.getByLabel("Gap between the plates").fill("ten millimetres");
  await page.getByRole("button", { name: "Make the case" }).click();
  await expect(page.getByText("does not begin with a number").first()).toBeVisible();
  await page.getByLabel("Gap between the plates").fill("1,000 mm");
  await page.getByRole("button", { name: "Make the case" }).click();
  await expect(page.getByText("may mean 1000 or 1.000").first()).toBeVisible();
  await page.getByLabel("Gap between the plates").fill("1 cm");
  await page.getByLabel("Pressure gradient", { exact: true }).fill("-0.05 Pa/m");
  await page.getByRole("button", { name: "Make the case" }).click();
  await page.waitForURL("**/question");
  strip = idOf(page);

  // Any unit in, the same shown; the typed Reynolds number is checked against the computed one.
  await expect(page.getByLabel("Gap between the plates", { exact: true })).toHaveValue("1 cm");
  await page.getByLabel("Reynolds number, if typed").fill("500");
  await page.getByRole("button", { name: "Save question" }).click();
  await expect(page.getByText("Reynolds number was typed as 500").first()).toBeVisible();
  await page.getByLabel("Reynolds number, if typed").fill("");
  await page.getByRole("button", { name: "Save question" }).click();
  await expect(page.getByText("Nothing contradicts itself")).toBeVisible();

  await page.goto(`/cases/${strip}/meshes`);
  await page.getByRole("button", { name: "Run three meshes" }).click();
  await page.waitForURL("**/runs**");
  await expect(page.getByTestId("run").filter({ hasText: "done" })).toHaveCount(3, { timeout: 120_000 });

  await page.goto(`/cases/${strip}/settling`);
  await expect(page.getByText(/Settled: 8.* were asked/)).toBeVisible();
  await page.goto(`/cases/${strip}/comparison`);
  await expect(page.getByText(/falls at order 2\.0\d between the two finest meshes, within 0\.1 of the formal order 2/).first()).toBeVisible();
  await page.goto(`/cases/${strip}/refinement?q=shearResting`);
  await expect(page.getByText("No order, and none needed")).toBeVisible();
  await page.goto(`/cases/${strip}/verdict`);
  await expect(page.getByRole("complementary").getByText("holds", { exact: true })).toBeVisible();

  await page.goto(`/cases/${strip}/report`);
  await page.getByLabel("Issued by, initials").fill("A. B.");
  await page.getByRole("button", { name: "Issue report 1" }).click();
  await expect(page.getByRole("link", { name: "Page 1" })).toBeVisible({ timeout: 60_000 });
});

test("a report under way can be given up; what a thread refuses is told in its own words", async ({ page, request, baseURL }) => {
  const headers = { origin: baseURL ?? "" };
  const issued = request.post(`/api/cases/${strip}/reports`, { data: { issuedBy: "G. U." }, headers });
  await expect.poll(async () => (await (await request.get(`/api/cases/${strip}/report-under-way`)).json()).told, { intervals: [20] }).toBeTruthy();
  expect((await request.delete(`/api/cases/${strip}/report-under-way`, { headers })).ok()).toBe(true);
  const answer = await issued;
  expect([answer.status(), (await answer.json()).error]).toEqual([409, "It was given up; nothing was stored."]);
  await page.goto(`/cases/${strip}/report`);
  await expect(page.getByRole("button", { name: "Issue report 2" })).toBeVisible();
  const bad = await request.post(`/api/cases/${strip}/bring-in`, {
    headers,
    data: {
      history: { name: "bad.csv", text: "iteration,mass\n1,0.1\n2,oops\n" },
      quantities: null,
      label: "bad",
      code: "c",
      cells: 10,
      volume: "1 m^2",
      dimension: 2,
      roles: ["iteration", "residual"],
      rowRoles: [],
    },
  });
  expect([bad.status(), (await bad.json()).error]).toEqual([
    422,
    expect.stringMatching(/^bad.csv, line 3, column "mass": "oops" .* Nothing was stored\.$/),
  ]);
});

test("the report shows the figures of the screen, and its files carry them", async ({ page, request }) => {
  const screen = await (await request.get(`/api/cases/${strip}/assessment`)).json();
  const refined = screen.refinement.find((r: { key: string }) => r.key === "flowRate");
  await page.goto(`/cases/${strip}/reports/1`);
  await expect(page.getByRole("heading", { name: named("Strip with a draught") })).toBeVisible();
  await expect(page.getByText("issued", { exact: false }).first()).toContainText("by A. B.");
  // Its widest table has sixteen columns.
  expect(await page.evaluate(() => Math.max(...[...document.querySelectorAll("tr")].map((r) => r.cells.length)))).toBeGreaterThan(12);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(page.viewportSize()?.width ?? 0);
  const zip = unzipSync(new Uint8Array(await (await request.get(`/api/cases/${strip}/reports/1/zip`)).body()));
  const document = JSON.parse(new TextDecoder().decode(zip["report.json"]));
  const row = document.tables.find((t: { key: string }) => t.key === "refinement").rows.find((r: unknown[]) => r[0] === "flow rate per depth");
  expect(row[3]).toBe(refined.result.order);
  expect(row[5]).toBe(refined.relative);
  expect(new TextDecoder().decode(zip["tables/refinement.csv"])).toContain(String(refined.result.order));
  expect(new TextDecoder().decode(zip["drawings/rule.svg"])).toContain("<svg");
  // The evidence itself: records with units, profiles, the finest field.
  const paths = Object.keys(zip);
  const record = paths.find((x) => x.startsWith("records/")) ?? "";
  expect(new TextDecoder().decode(zip[record]).split("\n")[0]).toContain("flow rate per depth (m^2/s)");
  expect(paths.some((x) => x.startsWith("profiles/"))).toBe(true);
  expect(new TextDecoder().decode(zip[paths.find((x) => x.startsWith("fields/")) ?? ""])).toContain("<VTKFile");
  expect(document.sections.find((x: { stage: string }) => x.stage === "question").sentences.join(" ")).toContain("Physics: steady, incompressible");
  for (const x of document.sections) for (const t of x.sentences) expect(t[0]).toBe(t[0].toUpperCase());
  expect(JSON.parse(new TextDecoder().decode(zip["report.schema.json"])).title).toBe("Tin Ruler report");
  expect(new TextDecoder().decode(zip["report.pdf"].slice(0, 5))).toBe("%PDF-");
});

test("a later report gets a new number and the old one stays as it was", async ({ page, request }) => {
  const before = await (await request.get(`/api/cases/${strip}/reports/1/json`)).text();
  await page.goto(`/cases/${strip}/question`);
  await page.getByLabel("Speed of the upper plate", { exact: true }).fill("0.2 m/s");
  await page.getByRole("button", { name: "Save question" }).click();
  const stale = page.getByRole("alertdialog", { name: "What goes stale" });
  await expect(stale).toContainText("the bench can make them again");
  await expect(stale).toContainText("stays as it is and speaks of the set-up before");
  await stale.getByRole("button", { name: "Save all the same" }).click();
  await expect(page.getByText("The question was saved.")).toBeVisible();
  await page.goto(`/cases/${strip}/verdict`);
  await expect(page.getByText("The runs were made with an earlier set-up. What follows")).toBeVisible();
  for (const stage of ["settling", "balance", "refinement", "comparison"]) {
    await page.goto(`/cases/${strip}/${stage}`);
    await expect(page.getByRole("complementary").getByText("Stale: made with an earlier set-up")).toBeVisible();
    await expect(page.getByRole("complementary").getByText("Nothing is left to do")).toHaveCount(0);
  }
  await page.goto(`/cases/${strip}/report`);
  await page.getByLabel("Issued by, initials").fill("C. D.");
  await page.getByRole("button", { name: "Issue report 2" }).click();
  await expect(page.getByRole("link", { name: "Page 2" })).toBeVisible({ timeout: 60_000 });
  expect(await (await request.get(`/api/cases/${strip}/reports/1/json`)).text()).toBe(before);
  const second = await (await request.get(`/api/cases/${strip}/reports/2/json`)).json();
  expect(second.verdicts.map((v: { word: string }) => v.word)).not.toContain("holds");
});

test("the family is run again with the present set-up by one button; the case is copied without its runs", async ({ page }) => {
  await page.goto(`/cases/${strip}/runs`);
  await page.getByRole("button", { name: "Run the family again" }).click();
  await expect(page.getByTestId("run")).toHaveCount(6, { timeout: 60_000 });
  await expect(page.getByTestId("run").filter({ hasText: "done" })).toHaveCount(6, { timeout: 120_000 });
  await page.goto(`/cases/${strip}/verdict`);
  await expect(page.getByRole("complementary").getByText("holds", { exact: true })).toBeVisible();

  await page.goto(`/cases/${strip}/question`);
  await page.getByRole("button", { name: "Copy the case" }).click();
  await page.waitForURL((url) => url.pathname.endsWith("/question") && !url.pathname.includes(strip));
  await expect(page.getByLabel("Name of the case")).toHaveValue(`${named("Strip with a draught")}, copy`);
  await expect(page.getByText(`Copied from ${named("Strip with a draught")}`)).toBeVisible();
  await expect(page.getByLabel("Gap between the plates", { exact: true })).toHaveValue("1 cm");
  await page.goto(`/cases/${idOf(page)}/runs`);
  await expect(page.getByText("No run yet.")).toBeVisible();
});

test("a broken file is refused by its line, a good one becomes a run", async ({ page }) => {
  await page.goto("/new");
  await page.getByRole("radio", { name: "Results from another code" }).check();
  await page.getByLabel("Name of the case").fill(named("Louvre step"));
  await page.getByLabel("First quantity").fill("reattachment length");
  await page.getByLabel("Its unit").fill("m");
  await page.getByRole("button", { name: "Make the case" }).click();
  await page.waitForURL("**/question");
  louvre = idOf(page);
  await page.goto(`/cases/${louvre}/runs`);
  await page.getByRole("button", { name: "Bring in results" }).click();
  const [run] = lintelRuns();
  const broken = `${run.history.split("\n").slice(0, 40).join("\n").slice(0, -30)}`;
  await page.getByLabel("History: one line an iteration").setInputFiles({ name: "cut.csv", mimeType: "text/csv", buffer: Buffer.from(broken) });
  await expect(page.getByRole("alert").getByText("cut.csv, line 40")).toBeVisible();
  await expect(page.getByText("the file looks cut off here")).toBeVisible();
  await expect(page.getByRole("button", { name: "Bring in as a run" })).toHaveCount(0);
  await expect(page.getByTestId("run")).toHaveCount(0);

  await page
    .getByLabel("History: one line an iteration")
    .setInputFiles({ name: "history.csv", mimeType: "text/csv", buffer: Buffer.from(run.history) });
  await page
    .getByLabel("Quantities: name, value, unit (CSV)")
    .setInputFiles({ name: "quantities.csv", mimeType: "text/csv", buffer: Buffer.from(run.quantities) });
  await expect(page.getByLabel("Role of column mass residual")).toHaveValue("residual");
  await expect(page.getByLabel("Role of row mass flow inlet")).toHaveValue("boundary-mass");
  await page.getByLabel("Name of the run").fill("L1");
  await page.getByLabel("Code", { exact: true }).fill("Lintel");
  await page.getByLabel("Cells", { exact: true }).fill("96000");
  await page.getByLabel("Volume meshed").fill("1.08 m^3");
  await page.getByRole("button", { name: "Bring in as a run" }).click();
  await expect(page.getByTestId("run")).toHaveCount(1);
  await page.goto(`/cases/${louvre}/balance`);
  await expect(page.getByRole("cell", { name: "inlet" })).toBeVisible();
});

test("what is deleted is asked about and can be had back", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: `Delete ${named("Louvre step")}`, exact: true }).click();
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByRole("link", { name: named("Louvre step"), exact: true })).toBeVisible();
  await page.getByRole("button", { name: `Delete ${named("Louvre step")}`, exact: true }).click();
  await page.getByRole("button", { name: "Delete case" }).click();
  await expect(page.getByRole("link", { name: named("Louvre step"), exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("link", { name: named("Louvre step"), exact: true })).toBeVisible();
});

test("a finding is written and linked to its run", async ({ page }) => {
  await page.goto(`/cases/${louvre}/verdict`);
  await page.getByRole("button", { name: "Write a finding" }).click();
  await page.getByLabel("Name", { exact: true }).fill(named("Short bubble"));
  await page.getByLabel("What is off").fill("The bubble is shorter than measured.");
  await page.getByLabel("Run that shows it").selectOption({ index: 1 });
  await page.getByRole("button", { name: "Save finding" }).click();
  await expect(page.getByText("Shown by L1.")).toBeVisible();
  await page.goto("/findings");
  await expect(page.getByRole("link", { name: named("Short bubble"), exact: true })).toBeVisible();
});

test("what is typed before the jump dialog has come is kept", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("button", { name: "Jump to anything" })).toBeVisible();
  // The dialog's own scripts take their time.
  let held = 0;
  await page.route(/\.js(\?|$)/, async (route) => {
    held++;
    await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  });
  await expect(async () => {
    await page.keyboard.press("/");
    await expect(page.getByRole("textbox", { name: "Jump to" })).toBeFocused({ timeout: 500 });
  }).toPass();
  await page.keyboard.type("Strip");
  const dialog = page.getByRole("dialog", { name: "Jump to" });
  await expect(dialog.getByRole("combobox")).toHaveValue("Strip");
  await expect(dialog.getByRole("combobox")).toBeFocused();
  expect(held).toBeGreaterThan(0);
  await page.keyboard.press("Escape");
  await expect(dialog).toBeHidden();
});

test("keyboard alone: jump, stages, quantities, keys", async ({ page }) => {
  await page.goto("/");
  // A key that is pressed before the page listens is pressed again.
  await expect(async () => {
    if (!(await page.getByRole("dialog").isVisible())) await page.keyboard.press("/");
    await expect(page.getByRole("dialog")).toBeVisible({ timeout: 1000 });
    await page.keyboard.press("ControlOrMeta+a");
    await page.keyboard.type("Strip with");
    await page.keyboard.press("Enter");
    await page.waitForURL("**/question", { timeout: 5000 });
  }).toPass();
  for (const [i, stage] of STAGES.entries()) {
    await expect(async () => {
      await page.keyboard.press("g");
      await page.keyboard.press(String((i + 1) % 10));
      await page.waitForURL(`**/${stage}**`, { timeout: 5000 });
    }).toPass();
    await expect(page.getByRole("heading", { level: 1 })).toHaveText(stage[0].toUpperCase() + stage.slice(1));
  }
  await expect(page.getByTestId("quantity")).toHaveText("flow rate per depth");
  await page.keyboard.press("]");
  await expect(page.getByTestId("quantity")).toHaveText("shear on the resting plate");
  await page.keyboard.press("[");
  await expect(page.getByTestId("quantity")).toHaveText("flow rate per depth");
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("g");
  await page.keyboard.press("c");
  await expect(page.getByRole("heading", { level: 1, name: "Cases" })).toBeVisible();
});

test("no finding of the accessibility rules on any page", async ({ page }) => {
  for (const url of [
    "/",
    "/new",
    "/bench",
    "/quantities",
    "/findings",
    "/method",
    ...STAGES.map((s) => `/cases/${strip}/${s}`),
    `/cases/${louvre}/runs`,
    `/cases/${strip}/reports/1`,
  ]) {
    await page.goto(url);
    await page.waitForLoadState("networkidle");
    await sound(page);
  }
});

test("changes from elsewhere, foreign names and hostile input are refused", async ({ request, baseURL }) => {
  const foreign = await request.post("/api/cases", { headers: { origin: "http://evil.example" }, data: {} });
  expect(foreign.status()).toBe(403);
  const named = await request.get("/", { headers: { host: "evil.example" } });
  expect(named.status()).toBe(421);
  const shape = await request.post("/api/cases", { headers: { origin: baseURL ?? "" }, data: { title: "x" } });
  expect(shape.status()).toBe(422);
  const none = await request.get("/api/cases/00000000-0000-4000-8000-000000000000/assessment");
  expect(none.status()).toBe(404);
  const names = await request.post("/api/cases", {
    headers: { origin: baseURL ?? "" },
    data: {
      title: "<img src=x onerror=alert(1)>",
      purpose: "",
      problemId: "plates",
      parameters: {},
      fluidName: "air",
      temperature: "",
      pressure: "",
    },
  });
  expect(names.ok()).toBe(true);
  const html = await (await request.get("/")).text();
  expect(html).not.toContain("<img src=x");
});

test("every page keeps to its content policy, and nothing else runs in it", async ({ page, request }) => {
  const broken: string[] = [];
  page.on("console", (m) => {
    if (m.type() === "error") broken.push(`${page.url()}: ${m.text()}`);
  });
  page.on("pageerror", (e) => broken.push(`${page.url()}: ${e.message}`));
  const urls = [
    "/",
    "/new",
    "/bench",
    "/quantities",
    "/quantities",
    "/findings",
    "/method",
    ...STAGES.map((s) => `/cases/${strip}/${s}`),
    `/cases/${strip}/reports/1`,
  ];
  for (const url of urls) {
    const answer = await page.goto(url);
    expect(answer?.headers()["content-security-policy"]).toMatch(/script-src 'self' 'nonce-[\w+/=]{24}' 'wasm-unsafe-eval';/);
    await page.waitForLoadState("load");
  }
  expect(broken).toEqual([]);
  const ran = await page.evaluate(() => {
    const script = document.createElement("script");
    script.textContent = "window.intruder = true";
    document.body.append(script);
    return "intruder" in window;
  });
  expect(ran).toBe(false);
  const nonces = await Promise.all([1, 2].map(async () => (await request.get("/")).headers()["content-security-policy"]));
  expect(nonces[0]).not.toBe(nonces[1]);
});

test("seven tabs on one case: all hear of a run, and the server still answers them", async ({ context, request, baseURL }) => {
  const tabs = await Promise.all(Array.from({ length: 7 }, () => context.newPage()));
  for (const tab of tabs) await tab.goto(`/cases/${strip}/runs`);
  const before = await tabs[0].getByTestId("run").count();
  const uniform = { kind: "uniform" };
  const family = { baseNx: 8, baseNy: 8, ratio: 2, count: 1, gradingX: uniform, gradingY: uniform };
  const made = await request.post(`/api/cases/${strip}/family`, { headers: { origin: baseURL ?? "" }, data: family });
  expect(made.ok()).toBe(true);
  for (const tab of tabs) await expect(tab.getByTestId("run").filter({ hasText: "done" })).toHaveCount(before + 1, { timeout: 60_000 });
  // The tab that listened for all is closed: another takes its place.
  await tabs[0].close();
  expect((await request.post(`/api/cases/${strip}/family`, { headers: { origin: baseURL ?? "" }, data: family })).ok()).toBe(true);
  for (const tab of tabs.slice(1)) await expect(tab.getByTestId("run").filter({ hasText: "done" })).toHaveCount(before + 2, { timeout: 60_000 });
  const titles = await Promise.all(tabs.slice(1).map((tab) => tab.evaluate(async () => (await fetch("/api/logs")).status)));
  expect(titles).toEqual(Array(6).fill(200));
  for (const tab of tabs.slice(1)) await tab.close();
});

test("saved record opens in a spreadsheet: header with every column, one line an iteration", async ({ request, page }) => {
  await page.goto(`/cases/${louvre}/runs`);
  const href = await page.getByRole("link", { name: "Record as CSV" }).getAttribute("href");
  const text = await (await request.get(href ?? "")).text();
  const lines = text.trim().split("\n");
  expect(lines[0]).toBe("iteration,mass residual (1),x momentum residual (1),turbulence residual (1),reattachment length (m)");
  expect(lines).toHaveLength(601);
});
