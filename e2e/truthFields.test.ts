import { expect, test } from "@playwright/test";
import { writeVtkGrid } from "../core/formats/vtkGrid.ts";
import { shapedRectangle } from "../core/mesh/shaped.ts";
import { sound, strip } from "./strip.ts";

const uniform = { kind: "uniform" } as const;

/** The strip's flow as another code would write it: millimetres, a vector of three components, pressure over density, a tenth too slow. */
function gridText(): string {
  const mesh = shapedRectangle({ lengthM: 20, heightM: 10, nx: 10, ny: 10, gradingX: uniform, gradingY: uniform, periodicX: false }, "hexagons");
  const [mu, gap] = [1.74e-5, 0.01];
  const u = (y: number) => 0.9 * (0.1 * (y / gap) + (0.05 / (2 * mu)) * y * (gap - y));
  const cells = Array.from({ length: mesh.cellCount }, (_, c) => `${u(mesh.centroidM[2 * c + 1] / 1000)} 0 0`);
  const vector = `<DataArray type="Float64" Name="U" NumberOfComponents="3" format="ascii">\n${cells.join("\n")}\n</DataArray>`;
  const p = Array.from({ length: mesh.cellCount }, (_, c) => (-0.05 * mesh.centroidM[2 * c]) / 1000 / 1.274);
  return writeVtkGrid(mesh, [{ name: "p", values: p }]).replace("<CellData>", `<CellData>\n${vector}`);
}

/** Two by two by three cells in space, as text. */
function blockText(): string {
  const points = [0, 1, 2, 3].flatMap((k) => [0, 1, 2].flatMap((j) => [0, 1, 2].map((i) => `${i} ${j} ${k}`)));
  return `<VTKFile type="StructuredGrid" version="0.1" byte_order="LittleEndian"><StructuredGrid WholeExtent="0 2 0 2 0 3"><Piece Extent="0 2 0 2 0 3"><CellData><DataArray type="Float64" Name="p" format="ascii">${Array.from({ length: 12 }, (_, c) => c).join(" ")}</DataArray></CellData><Points><DataArray type="Float64" NumberOfComponents="3" format="ascii">${points.join(" ")}</DataArray></Points></Piece></StructuredGrid></VTKFile>`;
}

test("another code's run is given its mesh and fields from a file, looked at, and held against the bench's over the whole plane", async ({
  page,
  request,
  baseURL,
}, info) => {
  const headers = { origin: baseURL ?? "" };
  const id = await strip(request, headers, `Strip by two codes${info.retry ? `, ${info.retry}` : ""}`, "0.1 m/s");
  await page.goto(`/cases/${id}/runs`);
  await expect(page.getByTestId("run").filter({ hasText: "done" })).toHaveCount(3, { timeout: 120_000 });
  const data = {
    history: null,
    quantities: { name: "values.csv", text: "name,value,unit\nflow rate per depth,0.0006,m^2/s\n" },
    label: "honeycomb",
    code: "Lintel",
    cells: 105,
    volume: "2 cm^2",
    dimension: 2,
    roles: [],
    rowRoles: ["quantity:flowRate"],
  };
  expect((await request.post(`/api/cases/${id}/bring-in`, { headers, data })).ok()).toBe(true);
  await page.goto(`/cases/${id}/runs`);
  const run = page.getByTestId("run").filter({ hasText: "Lintel" });
  await run.getByRole("button", { name: "Add fields" }).press("Enter");
  const file = page.getByLabel(/A grid in a plane, or in space to be cut/);
  await file.setInputFiles({ name: "notes.vtu", mimeType: "text/xml", buffer: Buffer.from("<VTKFile type='Other'></VTKFile>") });
  await expect(page.getByText('Files of kind "Other" are not read.')).toBeVisible();
  // A block in space is cut with a plane first.
  await file.setInputFiles({ name: "block.vts", mimeType: "text/xml", buffer: Buffer.from(blockText()) });
  await expect(page.getByText("The grid lies in space, 12 cells with more than one layer")).toBeVisible();
  await page.getByLabel("Cut with a plane across").selectOption("z");
  await page.getByLabel("At, from 0 to 3.000").fill("9");
  await page.getByRole("button", { name: "Cut it" }).press("Enter");
  await expect(page.getByText(/The plane at z 9 cuts no cell/)).toBeVisible();
  await page.getByLabel("At, from 0 to 3.000").fill("1,5");
  await page.getByRole("button", { name: "Cut it" }).click();
  await expect(page.getByText("In the plane 4 cells, 2.000 by 2.000 in the file’s unit.")).toBeVisible();
  await page.getByLabel("Limit of aspect ratio").fill("0");
  await expect(page.getByText('The limit of aspect ratio, "0", is no positive number.')).toBeVisible();
  await page.getByLabel("Limit of aspect ratio").fill("0.5");
  await page.getByRole("button", { name: "Keep their quality with the run" }).click();
  await expect(page.getByText("The quality of its cells is kept with honeycomb; it stands at Meshes.")).toBeVisible();
  await sound(page);
  await file.setInputFiles({ name: "honeycomb.vtu", mimeType: "text/xml", buffer: Buffer.from(gridText()) });
  await expect(page.getByText(/In the plane \d+ cells, 20\.00 by 10\.00 in the file’s unit\./)).toBeVisible();
  await expect(page.getByLabel("What U on cells is")).toHaveValue("velocity");
  await page.getByLabel("Unit of length of the file").fill("mm");
  await page.getByLabel("Unit of p on cells").fill("K");
  await page.getByRole("button", { name: "Give it these fields" }).click();
  await expect(page.getByText('p: "K" cannot be turned into Pa.').first()).toBeVisible();
  await page.getByLabel("Unit of p on cells").fill("m^2/s^2");
  await sound(page);
  await page.getByRole("button", { name: "Give it these fields" }).click();
  await expect(page.getByText("honeycomb has its fields.")).toBeVisible();
  await expect(page.getByText(/p is pressure over density; it was multiplied/)).toBeVisible();

  // The cells of the block stand at Meshes, the worst of them marked in place.
  await page.goto(`/cases/${id}/meshes`);
  const cells = page.getByRole("region", { name: "Cells of honeycomb" });
  await expect(cells.getByRole("row", { name: /^aspect ratio 1\.00 1\.00 0\.5 12/ })).toBeVisible();
  await cells.getByRole("button", { name: "Look at the mesh" }).click();
  await expect(cells.locator("canvas")).toBeVisible();
  await sound(page);
  await page.goto(`/cases/${id}/runs`);

  // Its field is seen like any of the bench's, with what is worked out of it.
  await run.getByRole("button", { name: "honeycomb", exact: true }).click();
  await expect(page.getByLabel("Field shown")).toHaveValue("speed");
  await page.getByLabel("Field shown").selectOption("vorticity");
  await expect(page.locator("canvas").first()).toBeVisible();

  await page.goto(`/cases/${id}/comparison`);
  await page.getByLabel("Field", { exact: true }).selectOption("u");
  await page.getByRole("button", { name: "Compare them" }).press("Enter");
  const told = page.getByRole("region", { name: "Fields of two runs" }).getByRole("status");
  await expect(told).toContainText("Agreement between two runs, or two codes, is no truth.");
  // A tenth of a velocity that is 0.0858 m/s in the mean square at least, and at most a tenth of the largest.
  await expect(told).toContainText(/differs from that of .* by 0\.00\d+\sm\/s in the root mean square/);
  await expect(page.getByTestId("linked-views").locator("canvas")).toHaveCount(4);
  await sound(page);
});
