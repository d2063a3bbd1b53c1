import { expect, type Page, test } from "@playwright/test";
import { PAPER_FIGURE, paperCurve, scanned } from "../demo/paperFigure.ts";
import { curvesFile, TRAVERSE_TRUTH, traverseFile } from "../demo/traverse.ts";
import { sound } from "./strip.ts";

/** Brings a pressure drop in as a run of the case that is open. */
async function bringRun(page: Page, id: string, label: string, dropPa: number, cells: string): Promise<void> {
  await page.goto(`/cases/${id}/runs`);
  await page.getByRole("button", { name: "Bring in results" }).click();
  await page
    .getByLabel("Quantities: name, value, unit (CSV)")
    .setInputFiles({ name: "q.csv", mimeType: "text/csv", buffer: Buffer.from(`name,value,unit\npressure drop,${dropPa},Pa\n`) });
  await page.getByLabel("Name of the run").fill(label);
  await page.getByLabel("Code", { exact: true }).fill("Lintel");
  await page.getByLabel("Cells", { exact: true }).fill(cells);
  await page.getByLabel("Volume meshed").fill("1.08 m^3");
  await page.getByRole("button", { name: "Bring in as a run" }).click();
  await expect(page.getByTestId("run").filter({ hasText: label })).toHaveCount(1);
}

/** A new case of another code at the louvre's conditions, with one run of values. @returns its id */
async function louvre(page: Page): Promise<string> {
  await page.goto("/new");
  await page.getByRole("radio", { name: "Results from another code" }).check();
  await page.getByLabel("Name of the case").fill("Louvre, traverse and paper");
  await page.getByLabel("First quantity").fill("pressure drop");
  await page.getByLabel("Its unit").fill("Pa");
  await page.getByLabel("Reference velocity").fill("2 m/s");
  await page.getByLabel("Reference length").fill("50 mm");
  await page.getByRole("button", { name: "Make the case" }).click();
  await page.waitForURL("**/question");
  const id = new URL(page.url()).pathname.split("/")[2];
  await bringRun(page, id, "L3 fine", 11.4, "1000000");
  return id;
}

test("measured stations, a scanned figure traced by colour, and a run's curves: compared at one glance", async ({ page }) => {
  const id = await louvre(page);

  // The traverse: four stations, one slipped point that is proposed as doubtful.
  await page.goto(`/cases/${id}/yardsticks`);
  await page.getByRole("button", { name: "Bring in curves" }).click();
  await page
    .locator("#curve-file")
    .setInputFiles({ name: "traverse.csv", mimeType: "text/csv", buffer: Buffer.from(traverseFile().replaceAll("x/H", "station")) });
  await expect(page.getByLabel("What station is")).toHaveValue("station");
  await page.getByLabel("Unit of station").fill("1");
  await expect(page.getByText(/mark the point at 40.00 as doubtful/)).toBeVisible();
  await page.getByLabel("Shared by all points").fill("0.8 %");
  const form = page.getByRole("form", { name: "Bring in curves" });
  await form.getByRole("textbox", { name: "Name", exact: true }).fill("Traverse 7");
  await form.getByRole("button", { name: "Take as yardstick" }).click();
  await expect(form.getByText("Say where it comes from", { exact: false })).toBeVisible();
  await form.getByRole("textbox", { name: "Source" }).fill("wind box, made up");
  await form.getByRole("button", { name: "Take as yardstick" }).click();
  const taken = page.getByRole("region", { name: "Traverse 7" });
  await expect(taken.getByText("20 points, 1 of them doubtful")).toBeVisible();

  // The paper's figure: axes by their corners, the curve by its colour, by mouse and by key.
  await page.getByRole("button", { name: "Read a figure" }).click();
  await page.locator("#figure-file").setInputFiles("demo/files/paper-figure.png");
  const picture = page.getByRole("application");
  const { left, right, top, bottom, width, xMm, uMS } = PAPER_FIGURE;
  const press = async (place: readonly [number, number]) => {
    const box = await picture.boundingBox();
    if (!box) throw new Error("no picture");
    const scale = box.width / width;
    await page.mouse.click(box.x + (place[0] + 0.5) * scale, box.y + (place[1] + 0.5) * scale);
  };
  await press(scanned([left, bottom]));
  await expect(page.getByRole("radio", { name: "x axis, second place" })).toBeChecked();
  await press(scanned([right, bottom]));
  await press(scanned([left, bottom]));
  await press(scanned([left, top]));
  for (const [name, value] of [
    ["x at the first place", xMm[0]],
    ["x at the second place", xMm[1]],
    ["y at the first place", uMS[0]],
    ["y at the second place", uMS[1]],
  ] as const)
    await page.getByLabel(name).fill(String(value));
  await expect(page.getByText("Calibrated;", { exact: false })).toBeVisible();
  await page.getByRole("radio", { name: "trace the curve of this colour" }).check();
  await press([30, 30]);
  await expect(page.getByText("nothing but paper there", { exact: false })).toBeVisible();
  const at = (mm: number) =>
    scanned([left + ((right - left) * mm) / xMm[1], bottom - ((bottom - top) * (paperCurve(4, mm) - uMS[0])) / (uMS[1] - uMS[0])]);
  await press(at(30));
  await expect(page.getByRole("status").getByText("60 points of that colour")).toBeVisible();
  // A point more by key, taken back by key.
  await page.getByRole("radio", { name: "a point of the curve" }).check();
  await picture.focus();
  await picture.press("Shift+ArrowRight");
  await picture.press("Enter");
  await expect(page.getByLabel("Curve being read").locator("option")).toHaveText("curve 1, 61 points");
  await picture.press("Backspace");
  await expect(page.getByLabel("Curve being read").locator("option")).toHaveText("curve 1, 60 points");
  await page.getByLabel("Its name").fill("u at station 4");
  await page.getByLabel("x is").fill("y");
  await page.getByLabel("Unit of x").fill("mm");
  await page.getByLabel("y is").fill("u");
  await page.getByLabel("Unit of y").fill("m/s");
  const reading = page.getByRole("form", { name: "Read a figure" });
  await reading.getByRole("textbox", { name: "Name", exact: true }).fill("Paper, figure 4");
  await reading.getByRole("textbox", { name: "Source" }).fill("a paper, made up");
  await reading.getByRole("button", { name: "Take as yardstick" }).click();
  const paper = page.getByRole("region", { name: "Paper, figure 4" });
  await paper.getByText("The figure it was read off", { exact: false }).click();
  await expect(paper.getByRole("img", { name: /with the points of Paper/ })).toBeVisible();

  // Curves of the run beside both.
  await page.goto(`/cases/${id}/runs`);
  await page.getByRole("button", { name: "Add curves" }).click();
  await page
    .locator("#curve-file")
    .setInputFiles({ name: "curves.csv", mimeType: "text/csv", buffer: Buffer.from(curvesFile("Lintel", 0.01).replaceAll("x/H", "station")) });
  await page.getByLabel("Unit of station").fill("1");
  await page.getByRole("button", { name: "Add the curves" }).click();
  await expect(page.getByText("L3 fine has 4 curves more.")).toBeVisible();
  await page.goto(`/cases/${id}/comparison`);
  const stations = page.getByRole("region", { name: "Traverse 7: u" });
  await expect(stations.getByRole("figure")).toHaveCount(2 * TRAVERSE_TRUTH.stations.length);
  await expect(stations.getByRole("row")).toHaveCount(1 + TRAVERSE_TRUTH.stations.length);
  const figure = page.getByRole("region", { name: "Paper, figure 4: u" });
  // The paper's layer is thinner than Lintel's by three in a hundred and some: well under a tenth of the range.
  const largest = await figure.getByRole("row").nth(1).getByRole("cell").nth(5).textContent();
  expect(Number.parseFloat(largest ?? "")).toBeLessThan(8);
  expect(Number.parseFloat(largest ?? "")).toBeGreaterThan(0.5);

  // What is off is written down where it is seen, and cured by another run.
  await page.getByRole("link", { name: "This is off: write a finding" }).click();
  await page.waitForURL("**/verdict?*off=comparison*");
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Comparison: pressure drop");
  await page.getByLabel("Suspected cause").selectOption({ label: "turbulence model or inlet turbulence" });
  await expect(page.getByText("Look whether the turbulence at the inlet was inherited", { exact: false })).toBeVisible();
  await page.getByLabel("Run that shows it").selectOption({ index: 1 });
  await page.getByRole("button", { name: "Save finding" }).click();
  await expect(page.getByText("the finding “Comparison: pressure drop” is open", { exact: false }).first()).toBeVisible();
  await bringRun(page, id, "L3 other inlet", 11.2, "1000001");
  await page.goto(`/cases/${id}/verdict`);
  const findings = page.getByRole("region", { name: "Findings" });
  await findings.getByRole("button", { name: "Change" }).click();
  await page.getByLabel("What was changed").fill("Inlet turbulence of the wind box.");
  await page.getByLabel("Run that cures it").selectOption({ index: 2 });
  await page.getByRole("button", { name: "Save finding" }).click();
  await expect(findings.getByText("cured", { exact: true })).toBeVisible();
  await expect(findings.getByRole("img", { name: "Comparison: pressure drop: before and after" })).toBeVisible();
  await expect(page.getByText("is open", { exact: false }).filter({ hasText: "finding" })).toHaveCount(0);

  await page.goto(`/cases/${id}/yardsticks`);
  await sound(page, "also the advised ones");
});

test("the library: found by words, moved by its slider, held against a case, taken as a yardstick that knows its range", async ({ page }) => {
  const id = await louvre(page);
  await page.goto(`/cases/${id}/yardsticks`);
  await page.getByRole("link", { name: "From the library" }).click();
  await page.getByLabel("Find by words").fill("jet bernoulli");
  await page.getByRole("button", { name: /Jet speed from a pressure drop/ }).click();
  const article = page.getByRole("article", { name: "Jet speed from a pressure drop" });
  await article.getByRole("textbox", { name: "Pressure drop" }).fill("10 kg");
  await expect(article.getByText(/kg/).last()).toBeVisible();
  await article.getByRole("textbox", { name: "Pressure drop" }).fill("0.2 mbar");
  await expect(article.getByRole("row", { name: /dynamic pressure of the jet/ })).toContainText("20");
  await article.getByRole("slider", { name: "Pressure drop, slider" }).press("ArrowRight");
  await expect(article.getByRole("row", { name: /dynamic pressure of the jet/ })).not.toContainText(/\b20\b/);
  await article.getByRole("textbox", { name: "Pressure drop" }).fill("5 kPa");
  await expect(article.getByText(/The Mach number of the jet is 0.2\d+|The Mach number of the jet is/)).toBeVisible();
  await article.getByLabel("For pressure drop, Pa").selectOption({ label: "dynamic pressure of the jet, Pa" });
  await article.getByRole("button", { name: "Take as yardstick" }).click();
  await page.waitForURL("**/yardsticks");
  const taken = page.getByRole("region", { name: "Jet speed from a pressure drop" });
  await expect(taken).toContainText("Density 1.274 kg/m^3 (the case's)");
  await expect(taken.getByRole("row", { name: /pressure drop/ })).toContainText("5000");
  await sound(page, "also the advised ones");
});

test("a file a station, counted otherwise and turned as stated; a run at another speed; runs among one another; how the error lies", async ({
  page,
}) => {
  const id = await louvre(page);
  await bringRun(page, id, "L2 medium", 11.9, "310000");
  await bringRun(page, id, "L3 faster", 25.1, "1000002");

  // A run made at another speed is no mesh of the case, and can be put back.
  await page.getByTestId("run").filter({ hasText: "L3 faster" }).getByRole("button", { name: "Condition" }).click();
  await page.getByLabel("Its value there").fill("3 parsnips");
  await page.getByRole("button", { name: "It was made there" }).click();
  await expect(page.getByText(/parsnips/).last()).toBeVisible();
  await page.getByLabel("Its value there").fill("3 m/s");
  await page.getByRole("button", { name: "It was made there" }).click();
  const sweep = page.getByRole("region", { name: "Sweep over Reference velocity" });
  await expect(sweep.getByRole("row", { name: /25.1/ })).toContainText("3");
  await expect(page.getByTestId("run")).toHaveCount(2);

  // The run's own curves, and the traverse as its source prints it: heights over the step's, speeds over the box's.
  const curves = "station,y (mm),u (m/s)\n1,0,0\n1,25,1\n1,50,2\n4,0,0\n4,25,0.8\n4,50,1.9\n";
  await page.getByTestId("run").filter({ hasText: "L3 fine" }).getByRole("button", { name: "Add curves" }).click();
  await page.locator("#curve-file").setInputFiles({ name: "c.csv", mimeType: "text/csv", buffer: Buffer.from(curves) });
  await page.getByLabel("Unit of station").fill("1");
  await page.getByRole("button", { name: "Add the curves" }).click();
  await expect(page.getByText("L3 fine has 2 curves more.")).toBeVisible();
  await page.goto(`/cases/${id}/yardsticks`);
  await page.getByRole("button", { name: "Bring in curves" }).click();
  const one = (name: string, text: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  await page.locator("#curve-file").setInputFiles([one("x4.csv", "y,u\n0,0\n0.5,0.41\n1,0.94\n"), one("x1.csv", "y,u\n0,0\n0.5,0.5\n1,1.01\n")]);
  await expect(page.getByText("The station is the last number in each file's name: 1: x1.csv, 4: x4.csv.")).toBeVisible();
  for (const name of ["station", "y", "u"]) await page.getByLabel(`Unit of ${name}`, { exact: true }).fill("1");
  const form = page.getByRole("form", { name: "Bring in curves" });
  await form.getByRole("textbox", { name: "Name", exact: true }).fill("Printed traverse");
  await form.getByRole("textbox", { name: "Source" }).fill("a paper, made up");
  await form.getByRole("button", { name: "Take as yardstick" }).click();
  const taken = page.getByRole("region", { name: "Printed traverse" });
  for (const [k, station] of [1, 4].entries()) {
    await taken.getByRole("button", { name: "Turn its figures" }).first().click();
    await taken.getByLabel("y, times").fill("50 mm");
    await taken.getByLabel("u, times").fill("2 m/s");
    await taken.getByRole("button", { name: "Count it so" }).click();
    await expect(taken.getByText("u of the yardstick: times 2 m/s."), `station ${station}`).toHaveCount(k + 1);
  }
  await page.goto(`/cases/${id}/comparison`);
  const stations = page.getByRole("region", { name: "Printed traverse: u" });
  await expect(stations.getByRole("row")).toHaveCount(3);
  await expect(stations.getByText("y of the yardstick: times 50 mm.", { exact: false })).toHaveCount(2);

  // A coarser run of the same code beside the fine one, and away again.
  const among = page.getByRole("region", { name: "Runs among one another" });
  await among.getByLabel("Run to put beside them").selectOption({ label: "Lintel, L2 medium" });
  await among.getByRole("button", { name: "Put it beside" }).click();
  await expect(among.getByText("2 runs of one code lie within", { exact: false })).toBeVisible();
  await expect(among.getByRole("img", { name: "runs and yardsticks on one scale" })).toBeVisible();
  await among.getByRole("button", { name: "Take Lintel, L2 medium away" }).click();
  await expect(among.getByRole("table")).toHaveCount(0);

  // A measured value, and the error of the finest mesh taken to lie to one side: signed, said beside the figures, taken back.
  await page.goto(`/cases/${id}/yardsticks`);
  await page.getByRole("button", { name: "Add a value" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Wall taps");
  await page.getByLabel("Value, any unit").fill("11.8 Pa");
  await page.getByLabel("Uncertainty at 95 %, or empty").fill("2 %");
  await page.getByLabel("Source", { exact: true }).fill("wind box, made up");
  await page.getByRole("button", { name: "Add yardstick", exact: true }).click();
  await expect(page.getByRole("region", { name: "Wall taps" })).toBeVisible();
  await page.goto(`/cases/${id}/comparison`);
  await page.getByRole("button", { name: "Take the error to lie to one side" }).click();
  await page.getByLabel("Divide by 1.15, because").fill("three meshes run down from one side");
  await page.getByLabel("Signed, initials").fill("EM");
  await page.getByRole("button", { name: "Divide by 1.15" }).click();
  await expect(page.getByText("over 1.15 (error to one side", { exact: false }).last()).toContainText("three meshes run down from one side (EM)");
  await page.getByRole("button", { name: "Take the error to lie about the result" }).click();
  await expect(page.getByRole("button", { name: "Take the error to lie to one side" })).toBeVisible();
  await sound(page, "also the advised ones");
});
