import { expect, test } from "@playwright/test";
import { hexahedra } from "../core/dataset/made.ts";
import { writeVtkCells } from "../core/formats/vtk/writeCells.ts";
import { foreignCase, sound } from "./strip.ts";

/** A flow that turns about the middle of 8 by 8 by 4 m and rises, in 16 x 16 x 8 hexahedra; the pressure is that of its turning, and grows with `t`. */
function turning(t: number): string {
  const n = [16, 16, 8] as const;
  const middle = (c: number) => [(c % 16) / 2 + 0.25, (Math.floor(c / 16) % 16) / 2 + 0.25, Math.floor(c / 256) / 2 + 0.25];
  const cells = Array.from({ length: 16 * 16 * 8 }, (_, c) => middle(c));
  return writeVtkCells(
    hexahedra(n, (i, j, k) => [i / 2, j / 2, k / 2], [
      { name: "U (m/s)", components: 3, values: Float64Array.from(cells.flatMap(([x, y]) => [4 - y, x - 4, 0.5])) },
      { name: "p (Pa)", components: 1, values: Float64Array.from(cells, ([x, y]) => (1 + t) * ((x - 4) ** 2 + (y - 4) ** 2)) },
    ]),
  );
}

const file = (name: string, text: string) => ({ name, mimeType: "text/xml", buffer: Buffer.from(text) });

test("results in space are looked at side by side: cut, followed along, made into other fields, read off; by keys as well", async ({ page }) => {
  await page.goto("/look");
  await expect(page.getByText("Nothing is open yet")).toBeVisible();
  const choose = page.getByLabel(/iles of one result/);
  await choose.setInputFiles(file("notes.vtu", "<VTKFile type='UnstructuredGrid'>"));
  await expect(page.getByText("The file ends before it is closed: it was cut off.")).toBeVisible();
  await page.getByRole("button", { name: "Close notes.vtu" }).click();
  await choose.setInputFiles(file("turning.vtu", turning(0)));
  const first = page.getByTestId("volume-view").first();
  const canvas = first.locator("canvas");
  await expect(canvas).toHaveAccessibleName(/turning.vtu, 2 ?048 cells\. Arrow keys turn it/);
  const picture = () => canvas.evaluate((c: HTMLCanvasElement) => c.toDataURL());
  const before = await picture();
  await canvas.press("ArrowRight");
  await expect.poll(picture).not.toBe(before);

  await page.getByRole("button", { name: "Cut with a plane" }).press("Enter");
  await expect(first.getByText("Cut 1 at z 2: 256 cells.")).toBeVisible();
  await page.getByLabel("Sweep cut 1").press("ArrowRight");
  await expect(first.getByText("Cut 1 at z 2.02: 256 cells.")).toBeVisible();
  await page.getByLabel("Across", { exact: true }).selectOption("askew");
  await page.getByLabel("Direction across it").fill("0, 0, 0");
  await expect(page.getByText("is no direction: three numbers such as 1, 1, 0.")).toBeVisible();
  await page.getByLabel("Direction across it").fill("1, 1, 0");
  await expect(first.getByText(/Cut 1 at the plane through \(4\.000\d*, 4\.000\d*, 0\) across \(1, 1, 0\): \d+ cells\./)).toBeVisible();
  await page.getByLabel("cut all away beyond it").check();

  await page.getByLabel("Lines along").selectOption({ label: "U, size (cells)" });
  await page.getByLabel("So many", { exact: true }).fill("9");
  await expect(first.getByText(/Of 18 lines \d+ left the cells/)).toBeVisible();
  const level = page.getByRole("region", { name: "Surface of one value" });
  await level.getByLabel("Of").selectOption({ label: "p (cells)" });
  await expect(first.getByText(/Surface of p \(Pa\) 14\.1, its cell values brought to the points: \d+ polygons\./)).toBeVisible();
  await sound(page);

  // Twice its rate of turning, whatever the cell.
  const made = page.getByRole("region", { name: "Fields made of others" });
  await made.getByLabel("Make").selectOption("vorticity");
  await made.getByRole("button", { name: "Make it" }).click();
  await expect(made.getByText(/^Vorticity: the curl, of least squares/)).toBeVisible();
  await page.getByLabel("Coloured by").selectOption({ label: "vorticity, z (cells)" });
  await page.getByLabel("Values at a place: press on the view, or type x, y, z").fill("3, 3, 1");
  const read = page.getByRole("region", { name: "Values read off" });
  await expect(read.getByText("0, 0, 2.0000", { exact: false })).toBeVisible();
  await made.getByLabel("Make").selectOption("formula");
  await made.getByLabel("Formula").fill("p / U_x");
  await expect(made.getByText("Known are U_x, U_y, U_z, p.")).toBeVisible();
  await made.getByLabel("Formula").fill("p + U_x");
  await made.getByRole("button", { name: "Make it" }).click();
  await expect(made.getByText(/do not go together/)).toBeVisible();

  // The floor's first cells stand 0.25 m above it; whoever asks for y+ says what the fluid is.
  await made.getByLabel("Make").selectOption("yPlus");
  await made.getByRole("button", { name: "Make it" }).click();
  await expect(made.getByText('Viscosity: "" is not a number.')).toBeVisible();
  await made.getByLabel("Viscosity, Pa s").fill("1e-5");
  await made.getByLabel(/^Density/).fill("1.25");
  await made.getByRole("button", { name: "Make it" }).click();
  await expect(made.getByText(/^y\+: .*all of the outside taken for walls, since the file names no boundaries/)).toBeVisible();

  // Another one beside it: everything is that of both, and their difference is a field.
  await choose.setInputFiles(file("later.vtu", turning(1)));
  await expect(page.getByTestId("volume-view")).toHaveCount(2);
  await expect(page.getByTestId("volume-view").last().getByText("It has no field y+ on cells; what shows it is left out.")).toBeVisible();
  await made.getByLabel("Make").selectOption("difference");
  await made.getByLabel("Of", { exact: true }).selectOption({ label: "p (Pa) (cells)" });
  await made.getByRole("button", { name: "Make it" }).click();
  await expect(
    made.getByText("P (Pa) less that of later.vtu", { exact: false }).or(made.getByText("p (Pa) less that of later.vtu", { exact: false })),
  ).toBeVisible();
  await page.getByLabel("Coloured by").selectOption({ label: "p (cells)" });
  await page.getByRole("button", { name: "Read along a line" }).click();
  await page.getByLabel("Line from").fill("4.1, 4.1, 1");
  await page.getByLabel("to", { exact: true }).last().fill("7.9, 4.1, 1");
  await expect(read.locator("svg").getByText("later.vtu")).toBeVisible();
  await sound(page);
});

test("how far a disturbance reaches round a crate on a floor is measured, and the surface at its limit drawn", async ({ page }) => {
  const whole = hexahedra([16, 16, 8], (i, j, k) => [i / 2 - 4, j / 2 - 4, k / 2]);
  const kept = Array.from(whole.kinds.keys()).filter((c) => c >= 256 || [c % 16, Math.floor(c / 16)].some((m) => m < 7 || m > 8));
  const middle = (c: number) => [(c % 16) / 2 - 3.75, (Math.floor(c / 16) % 16) / 2 - 3.75, Math.floor(c / 256) / 2 + 0.25];
  const crate = {
    ...whole,
    kinds: whole.kinds.slice(0, kept.length),
    cellStart: whole.cellStart.slice(0, kept.length + 1),
    corners: Int32Array.from(kept.flatMap((c) => [...whole.corners.subarray(8 * c, 8 * c + 8)])),
    onCells: [{ name: "speed (m/s)", components: 1, values: Float64Array.from(kept, (c) => 2 - Math.max(0, 1 - Math.hypot(...middle(c)) / 3)) }],
  };
  await page.goto("/look");
  await page.getByLabel(/iles of one result/).setInputFiles(file("crate.vtu", writeVtkCells(crate)));
  const reach = page.getByRole("region", { name: "How far it reaches" });
  await reach.getByLabel("speed (cells) far away, m/s").fill("2");
  await reach.getByLabel("Departs by more than, %").fill("10");
  await reach.getByRole("button", { name: "Measure it" }).press("Enter");
  await expect(reach.getByText("The mesh has no hole: say which of its boundaries is the body.")).toBeVisible();
  await reach.getByLabel("The body is").selectOption({ label: "what stands on the rim" });
  await reach.getByRole("button", { name: "Measure it" }).press("Enter");
  // The departure is 0.2 m/s at 2.4 m from the middle; the crate's side stands at 0.5 m and it is a metre long.
  await expect(reach.getByRole("row", { name: /^\+x/ })).toContainText(/1\.\d+\s*3\.50\s*2\.5/);
  await expect(reach.getByRole("row", { name: /^−z/ })).toContainText("nothing");
  await expect(page.getByTestId("volume-view").getByText(/Surface of departure of speed, m\/s 0\.2/)).toBeVisible();
  await sound(page);
});

test("moments of one result are gone through, by the times their collection says", async ({ page }) => {
  const rows = [0, 1, 2].map((t) => `<DataSet timestep="${t / 4}" file="out/at_${t}.vtu"/>`).join("");
  const all = [
    file("all.pvd", `<VTKFile type="Collection"><Collection>${rows}</Collection></VTKFile>`),
    ...[0, 1].map((t) => file(`at_${t}.vtu`, turning(t))),
  ];
  await page.goto("/look");
  await page.getByLabel(/iles of one result/).setInputFiles(all);
  await expect(page.getByText("Named but not chosen: at_2.vtu. Choose them together.")).toBeVisible();
  const moments = page.getByRole("group", { name: "Moments" });
  await expect(moments.getByText("1 of 2, t 0")).toBeVisible();
  await page.getByLabel("Values at a place: press on the view, or type x, y, z").fill("0.2, 4.1, 1");
  const pressure = page.getByRole("region", { name: "Values read off" }).getByText(/^14\.125/);
  await expect(pressure).toBeVisible();
  await moments.getByRole("button", { name: "One on" }).press("Enter");
  await expect(moments.getByText("2 of 2, t 0.25")).toBeVisible();
  await expect(page.getByRole("region", { name: "Values read off" }).getByText(/^28\.25/)).toBeVisible();
  await moments.getByRole("button", { name: "Play" }).click();
  await expect(moments.getByText("1 of 2, t 0", { exact: true })).toBeVisible();
  await moments.getByRole("button", { name: "Stop" }).click();
});

test("a run's own file opens from its row, and a curve read along a line is kept with the run", async ({ page, request, baseURL }, info) => {
  const headers = { origin: baseURL ?? "" };
  const id = await foreignCase(request, headers, {
    title: `Turning in the yard${info.retry ? `, ${info.retry}` : ""}`,
    quantity: "spin",
    unit: "1/s",
    value: 2,
    label: "swirl",
    cells: 2048,
    volume: "256 m^3",
  });
  await page.goto(`/cases/${id}/runs`);
  const row = page.getByTestId("run").filter({ hasText: "Lintel" });
  await row.getByRole("button", { name: "Add fields" }).click();
  await page.getByLabel(/A grid in a plane, or in space to be cut/).setInputFiles(file("turning.vtu", turning(0)));
  await page.getByRole("button", { name: "Keep their quality with the run" }).click();
  await expect(page.getByText("The quality of its cells is kept with swirl; it stands at Meshes.")).toBeVisible();
  await page.goto(`/cases/${id}/meshes`);
  const layers = page.getByRole("region", { name: "Layers along the outside" });
  await expect(layers.getByRole("row", { name: /all of the outside/ })).toContainText(/872.*872.*0\.500.*8 to 16/);
  await page.goto(`/cases/${id}/runs`);
  await row.getByRole("link", { name: "Look at swirl in space" }).click();
  await expect(page.locator("canvas")).toHaveAccessibleName(/swirl, 2 ?048 cells/);
  await page.getByLabel("Coloured by").selectOption({ label: "p (cells)" });
  await page.getByRole("button", { name: "Read along a line" }).click();
  // Round a corner, and straight again.
  await page.getByLabel("by way of, if it turns").fill("4, 1; 2");
  await expect(page.getByText("places of three numbers, semicolons between them")).toBeVisible();
  await page.getByLabel("by way of, if it turns").fill("4, 1, 2");
  await expect(page.getByText("places of three numbers, semicolons between them")).toHaveCount(0);
  await page.getByLabel("by way of, if it turns").fill("");
  await page.getByLabel("Keep it with swirl as").fill("pressure across");
  await page.getByLabel("Over", { exact: true }).selectOption("x");
  await page.getByRole("button", { name: "Keep the curve" }).click();
  await expect(page.getByText("The curve is kept with swirl; Comparison has it.")).toBeVisible();
  await page.getByRole("button", { name: "Keep the curve" }).click();
  await expect(page.getByText(/swirl has .*pressure across.* already/)).toBeVisible();
});

test("a run in time keeps its fields at even times: gone through, averaged over a phase, saved as pictures", async ({
  page,
  request,
  baseURL,
}, info) => {
  const headers = { origin: baseURL ?? "" };
  const made = await request.post("/api/cases", {
    headers,
    data: {
      title: `Eddies in time${info.retry ? `, ${info.retry}` : ""}`,
      problemId: "eddies",
      purpose: "",
      fluidName: "air",
      temperature: "4 degC",
      pressure: "101325 Pa",
      parameters: {
        velocityMS: "0.02 m/s",
        driftMS: "0.01 m/s",
        sideM: "0.1 m",
        densityKgM3: "1.274 kg/m^3",
        viscosityPaS: "1.74e-5 Pa s",
        endTimeS: "2 s",
      },
    },
  });
  expect(made.ok(), await made.text()).toBe(true);
  const { id } = (await made.json()) as { id: string };
  const uniform = { kind: "uniform" };
  const family = { baseNx: 8, baseNy: 8, ratio: 2, count: 1, gradingX: uniform, gradingY: uniform };
  expect((await request.post(`/api/cases/${id}/family`, { headers, data: family })).ok()).toBe(true);
  await page.goto(`/cases/${id}/runs`);
  const first = page.getByTestId("run").first();
  await expect(first.getByText("done")).toBeVisible({ timeout: 120_000 });
  await first.getByRole("button", { name: "Copy and change" }).click();
  await page.getByLabel(/Moments whose fields are kept/).fill("6");
  await expect(page.getByLabel(/Moments whose fields are kept \(about 0\.0061 MB\)/)).toHaveValue("6");
  await page.getByRole("button", { name: "Run the copy" }).click();
  const second = page.getByTestId("run").nth(1);
  await expect(second.getByText("done")).toBeVisible({ timeout: 120_000 });
  await page.reload();
  await second.getByRole("button").first().click();
  const bar = page.getByRole("group", { name: "Moments" });
  await expect(bar.getByText("6 of 6, the end")).toBeVisible();
  await bar.getByRole("button", { name: "One back" }).press("Enter");
  await expect(bar.getByText(/^5 of 6, t 1\.\d+ s$/)).toBeVisible();
  await expect(page.getByTestId("field-view").getByText(/m\/s, cell values; t 1\.\d+ s/)).toBeVisible();
  await page.getByLabel("Means over phases, period, s").fill("9");
  await expect(page.getByText(/less than one period of 9 s/)).toBeVisible();
  await page.getByLabel("Means over phases, period, s").fill("0.7");
  await page.getByLabel("Parts of it").fill("2");
  await bar.getByRole("button", { name: "One back" }).click();
  await expect(bar.getByText(/^1 of 2, phase 0\.250, mean of \d$/)).toBeVisible();
  await page.getByLabel("texture along the flow").check();
  await sound(page);
  const href = (await page.getByRole("link", { name: "pictures of the speed, zip" }).getAttribute("href")) ?? "";
  const zip = await request.get(href);
  expect(zip.ok()).toBe(true);
  expect((await zip.body()).subarray(0, 2).toString()).toBe("PK");
});
