import { spawnSync } from "node:child_process";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { expect, test } from "@playwright/test";
import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { sound, strip } from "./strip.ts";

let folder = "";
test.beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "tin-ruler-e2e-pack-"));
});
test.afterAll(() => rm(folder, { recursive: true, force: true }));

/** The command, as somebody gives it who has the product and no data folder. */
const assess = (...args: string[]) => spawnSync("sh", [path.resolve("bin/tin-ruler"), "assess", ...args], { cwd: folder, encoding: "utf8" });

test("a report is composed, issued and packed; the pack is made again elsewhere, a change in it is found, and it comes in as a copy", async ({
  page,
  request,
  baseURL,
}, info) => {
  const headers = { origin: baseURL ?? "" };
  const title = `Strip to be sent${info.retry ? `, ${info.retry}` : ""}`;
  const id = await strip(request, headers, title, "0.15 m/s");
  await page.goto(`/cases/${id}/runs`);
  await expect(page.getByTestId("run").filter({ hasText: "done" })).toHaveCount(3, { timeout: 120_000 });

  // Composed: words in Markdown, a caption, fewer chapters.
  await page.goto(`/cases/${id}/report`);
  await page.getByRole("button", { name: "Compose it" }).click();
  await page.getByLabel("In your own words, in Markdown").fill("The strip **alone**, see [the plan](https://example.org/plan).\n\n- slow\n- fast");
  await page.getByLabel("Settling", { exact: true }).uncheck();
  await page.getByRole("button", { name: "Write captions" }).click();
  await page
    .getByLabel(/^Figure: Error sources/)
    .first()
    .fill("The mesh is all there is.");
  await expect(page.getByText("12 of 13 chapters, words of your own, 1 caption")).toBeVisible();
  await sound(page);
  await page.getByLabel("Issued by, initials").fill("H. M.");
  await page.getByRole("button", { name: "Issue report 1" }).click();
  await page.getByRole("link", { name: "Page 1" }).click();
  await expect(page.locator("main").getByText("alone", { exact: true })).toHaveCSS("font-weight", "600");
  await expect(page.getByRole("link", { name: "the plan" })).toHaveAttribute("href", "https://example.org/plan");
  await expect(page.getByText("The mesh is all there is.")).toBeVisible();
  await expect(page.getByRole("heading", { name: "Settling" })).toHaveCount(0);

  // The same words in the text document.
  const docx = unzipSync(new Uint8Array(await (await request.get(`/api/cases/${id}/reports/1/docx`)).body()));
  expect(strFromU8(docx["word/document.xml"])).toContain("The mesh is all there is.");

  // Made again by the command, with the signature of the data folder.
  const at = (name: string) => path.join(folder, name);
  const save = async (name: string, address: string) => writeFile(at(name), await (await request.get(`/api${address}`)).body());
  await save("pack.zip", `/cases/${id}/reports/1/zip`);
  await save("pack.sig", `/cases/${id}/reports/1/pack-signature`);
  await save("key.pem", "/signing-key");
  const right = assess("pack.zip", "--signature", "pack.sig", "--key", "key.pem");
  expect(right.stdout).toMatch(/All \d+ files are those that were packed, and \d+ figures and sentences of the report come out the same\.\n$/);
  expect(right.stdout).toContain("The signature is that of this key");
  expect(right.status).toBe(0);

  // One digit of one figure of the report is another one.
  const files = unzipSync(new Uint8Array(await (await request.get(`/api/cases/${id}/reports/1/zip`)).body()));
  const forged = strFromU8(files["report.json"]).replace(/"rows": \[[^\]]*?(\d)\.(\d)/, (t) => t.replace(/\d$/, (d) => String((Number(d) + 1) % 10)));
  expect(forged).not.toBe(strFromU8(files["report.json"]));
  await writeFile(at("forged.zip"), zipSync({ ...files, "report.json": strToU8(forged) }));
  expect(assess("forged.zip").status).toBe(1);

  // The same on the page, by keyboard as far as the file.
  await page.goto("/packs");
  await page.getByLabel("Pack of a report (zip)").setInputFiles(at("forged.zip"));
  await expect(page.getByText("It does not hold: 1 thing is not as packed")).toBeVisible();
  await expect(page.getByText("report.json is not as it was packed: its sum is another one.")).toBeVisible();
  await expect(page.getByRole("heading", { name: "Comes out otherwise" })).toBeVisible();
  await page.getByLabel("Pack of a report (zip)").setInputFiles(at("pack.sig"));
  await expect(page.getByText("This is no zip file")).toBeVisible();
  await page.getByLabel("Pack of a report (zip)").setInputFiles(at("pack.zip"));
  await expect(page.getByText("come out the same.")).toBeVisible();
  await expect(page.getByText("is here already.")).toBeVisible();
  await sound(page);
  await page.getByRole("button", { name: "Bring the pack in" }).press("Enter");
  await page.waitForURL("**/verdict");
  await expect(page.getByText(`${title}, copy`).first()).toBeVisible();
  const copy = new URL(page.url()).pathname.split("/")[2];
  await page.goto(`/time-line?case=${copy}`);
  await expect(page.getByRole("heading", { name: "Before it came here" })).toBeVisible();
  await expect(page.getByText("each as it was entered.")).toBeVisible();
  await page.goto(`/cases/${copy}/report`);
  await expect(page.getByRole("link", { name: "Page 1" })).toBeVisible();
});

test("dark, light and as the system says: kept for the next page, readable, and never on paper", async ({ page, request, baseURL }) => {
  const headers = { origin: baseURL ?? "" };
  const cases = (await (await request.get("/api/cases")).json()) as { id: string; title: string }[];
  const id = cases[0]?.id ?? (await strip(request, headers, "Strip in the dark", "0.1 m/s"));
  const ground = () => page.evaluate(() => getComputedStyle(document.querySelector("main") as Element).backgroundColor);
  const light = "rgb(250, 249, 245)";
  await page.goto("/");
  expect(await ground()).toBe(light);
  await page.getByRole("button", { name: "Colours: as the system says" }).press("Enter");
  await page.getByRole("button", { name: "Colours: light" }).press("Enter");
  await expect(page.getByRole("button", { name: "Colours: dark" })).toBeVisible();
  expect(await ground()).toBe("rgb(26, 31, 33)");
  for (const url of [
    "/",
    "/packs",
    "/method",
    "/library",
    ...["question", "refinement", "comparison", "verdict", "report"].map((s) => `/cases/${id}/${s}`),
  ]) {
    await page.goto(url);
    await page.waitForLoadState("networkidle");
    await sound(page);
  }
  // A drawing turns on the screen and is saved as it stands in a report.
  await page.goto(`/cases/${id}/verdict`);
  const figure = page.locator("figure svg text").first();
  await expect(figure).toBeVisible();
  expect(await figure.evaluate((e) => getComputedStyle(e).fill)).not.toBe("rgb(79, 90, 94)");
  const saving = page.waitForEvent("download");
  await page
    .getByRole("button", { name: /^Save .* as SVG$/ })
    .first()
    .click();
  const saved = await (await saving).createReadStream();
  let text = "";
  for await (const piece of saved) text += piece;
  expect(text).toContain('fill="#1D2427"');
  expect(text).not.toContain("var(");
  await page.emulateMedia({ media: "print" });
  expect(await page.evaluate(() => getComputedStyle(document.body).color)).toBe("rgb(29, 36, 39)");
  await page.emulateMedia({ media: null, colorScheme: "dark" });
  await page.getByRole("button", { name: "Colours: dark" }).click();
  await expect(page.getByRole("button", { name: "Colours: as the system says" })).toBeVisible();
  expect(await ground()).not.toBe(light);
  await page.emulateMedia({ colorScheme: "light" });
  expect(await ground()).toBe(light);
});

test("every figure says what it rests on, and a saved one takes it along", async ({ page, request, baseURL }) => {
  const headers = { origin: baseURL ?? "" };
  const id = await strip(request, headers, "Strip with its origins", "0.12 m/s");
  await page.goto(`/cases/${id}/runs`);
  await expect(page.getByTestId("run").filter({ hasText: "done" })).toHaveCount(3, { timeout: 120_000 });
  await page.getByRole("button", { name: "What Residuals over the iterations rests on" }).click();
  await expect(
    page.getByText(/Rests on the record of 16 × 16[^;]* of the bench, settings [0-9a-f]{8}; set-up [0-9a-f]{8}, 3 runs of the bench/),
  ).toBeVisible();
  await page.goto(`/cases/${id}/refinement`);
  await page.getByRole("button", { name: "What flowRate against spacing rests on" }).press("Enter");
  await expect(page.getByText(/Rests on 16 × 16[^;]*; 8 × 8[^;]*; 4 × 4[^;]*; set-up/)).toBeVisible();
  await sound(page);
  const saving = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save flowRate against spacing as SVG" }).click();
  let text = "";
  for await (const piece of await (await saving).createReadStream()) text += piece;
  expect(text).toMatch(/^<svg[^>]*><desc>Rests on 16 × 16/);
});
