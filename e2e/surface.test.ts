import { expect, test } from "@playwright/test";
import { boxFaces, polygons } from "../core/dataset/made.ts";
import { stitch } from "../core/dataset/stitch.ts";
import { base, cgnsFile, coordinates, type Made, solution, zone } from "../core/formats/cgns/cgnsForTests.ts";
import { writeVtkSurface } from "../core/formats/vtk/writeSurface.ts";
import { foreignCase, sound } from "./strip.ts";

/** A box of 2 by 1 by 0.5 m, in mm, without one face below; the pressure falls by 100 Pa/m along x. */
function boxText(): string {
  const faces = boxFaces([0, 0, 0], [2000, 1000, 500], 4);
  const { surface } = stitch(polygons(faces.filter((_, k) => k !== 69)));
  const p = Array.from({ length: surface.points.length / 3 }, (_, k) => 300 - surface.points[3 * k] / 10);
  return writeVtkSurface(surface, [{ name: "p", on: "points", components: 1, values: p }]);
}

/** A duct of 2 by 1 by 1 m, one block of two cells, its ends named by the file; the pressure falls by 100 Pa/m along x. */
function ductFile(): Promise<Uint8Array> {
  const points = Array.from({ length: 12 }, (_, q) => [q % 3, Math.floor(q / 3) % 2, Math.floor(q / 6)] as const);
  const end = (i: number): Made => ({
    label: "BC_t",
    data: "BCGeneral",
    children: { PointRange: { label: "IndexRange_t", data: Int32Array.of(i, 1, 1, i, 2, 2), shape: [3, 2] } },
  });
  return cgnsFile({
    Base: base({
      duct: zone("Structured", [3, 2, 2, 2, 1, 1, 0, 0, 0], {
        GridCoordinates: coordinates(points, [3, 2, 2]),
        Flow: solution("Vertex", { Pressure: points.map(([x]) => 300 - 100 * x) }, [3, 2, 2]),
        ZoneBC: { label: "ZoneBC_t", children: { inflow: end(1), outflow: end(3) } },
      }),
    }),
  });
}

test("the boundaries a CGNS file names are its patches, without naming any", async ({ page, request, baseURL }, info) => {
  const headers = { origin: baseURL ?? "" };
  const id = await foreignCase(request, headers, {
    title: `Duct in the yard${info.retry ? `, ${info.retry}` : ""}`,
    quantity: "push",
    unit: "N",
    value: -200,
    label: "duct",
    cells: 2,
    volume: "2 m^3",
  });
  await page.goto(`/cases/${id}/runs`);
  await page.getByTestId("run").filter({ hasText: "duct" }).first().getByRole("button", { name: "Add a surface" }).press("Enter");
  await page
    .getByLabel(/The surface the flow acts on/)
    .setInputFiles({ name: "duct.cgns", mimeType: "application/octet-stream", buffer: Buffer.from(await ductFile()) });
  await expect(page.getByText("10 faces on 12 points, 2.000 by 1.000 by 1.000 m. They hang together, closed round 2.000 m³.")).toBeVisible();
  const names = page.getByLabel(/^Name of piece/);
  await expect(names).toHaveCount(3);
  expect((await names.evaluateAll((all: HTMLInputElement[]) => all.map((n) => n.value))).sort()).toEqual(["", "inflow", "outflow"]);
  await page.getByLabel("What push is").selectOption("force");
  await page.getByLabel("Patches of push").fill("inflow, outflow");
  await page.getByRole("button", { name: "Integrate over it" }).click();
  await expect(page.getByText("duct has its surface; what it gives stands at Balance.")).toBeVisible();
  await page.goto(`/cases/${id}/balance`);
  const forces = page.getByRole("region", { name: "Forces from the surface" });
  await expect(forces.getByRole("row", { name: /^inflow 1/ })).toContainText("300.00");
  await expect(forces.getByRole("row", { name: /^outflow 1/ })).toContainText("100.00");
  const row = forces.getByRole("row", { name: /^push, N/ });
  await expect(row.getByRole("img", { name: "holds", exact: true })).toBeVisible();
});

test("a surface is brought in, its patches named in the picture, and its force held against the reported one", async ({
  page,
  request,
  baseURL,
}, info) => {
  const headers = { origin: baseURL ?? "" };
  const id = await foreignCase(request, headers, {
    title: `Box in the yard${info.retry ? `, ${info.retry}` : ""}`,
    quantity: "push",
    unit: "N",
    value: 100.2,
    label: "yard",
    cells: 1000,
    volume: "8 m^3",
  });
  await page.goto(`/cases/${id}/runs`);
  await page.getByTestId("run").filter({ hasText: "Lintel" }).getByRole("button", { name: "Add a surface" }).press("Enter");
  const file = page.getByLabel(/The surface the flow acts on/);
  await file.setInputFiles({ name: "notes.stl", mimeType: "model/stl", buffer: Buffer.from("no surface at all") });
  await expect(page.getByText(/This is no STL file/)).toBeVisible();
  await file.setInputFiles({ name: "box.vtp", mimeType: "text/xml", buffer: Buffer.from(boxText()) });
  await expect(page.getByText("95 faces on 98 points, 2000 by 1000 by 500.0 m. They hang together.")).toBeVisible();
  await page.getByLabel("Unit of length of the file").fill("mm");
  await expect(page.getByText("Open along 4 edges, 1500 mm in all, at")).toBeVisible();
  await expect(page.getByText(/all but closed and its normals point outwards/)).toBeVisible();

  // A press on the picture goes to the name of the piece that is there; all of it works by keys as well.
  const view = page.getByTestId("space-view");
  const canvas = view.locator("canvas");
  await view.getByRole("button", { name: "from +x" }).click();
  await canvas.click({ position: { x: 210, y: 165 } });
  const name = page.locator("input:focus");
  await expect(name).toHaveAccessibleName("Name of piece 2");
  await name.fill("back");
  await page.getByLabel("Name of piece 1").fill("front");
  const picture = () => canvas.evaluate((c: HTMLCanvasElement) => c.toDataURL());
  const before = await picture();
  await canvas.press("ArrowLeft");
  await expect.poll(picture).not.toBe(before);
  await view.getByLabel("Painted by").selectOption({ label: "patches" });
  await expect(canvas).toHaveAccessibleName(/patches front, back\. Arrow keys turn it/);

  await page.getByRole("button", { name: "Give part of a patch another name" }).click();
  await page.getByLabel("What lies").selectOption("normal");
  await page.getByLabel("Direction, z", { exact: true }).fill("1");
  await page.getByLabel("Is called").fill("lid");
  await page.getByRole("button", { name: "Call it so" }).click();
  await expect(page.getByText("“lid” is what of what has no name faces 0, 0, 1.00 within 30 degrees;")).toBeVisible();

  await page.getByLabel("What push is").selectOption("force");
  await page.getByLabel("Patches of push").fill("front, roof");
  await sound(page);
  await page.getByRole("button", { name: "Integrate over it" }).click();
  await expect(page.getByText("yard has its surface; what it gives stands at Balance.")).toBeVisible();

  await page.goto(`/cases/${id}/balance`);
  await expect(page.getByText(/push is said to act on "roof", which the surface does not have/)).toBeVisible();
  const forces = page.getByRole("region", { name: "Forces from the surface" });
  await expect(forces.getByRole("row", { name: /^lid 16/ })).toBeVisible();
  await expect(forces.getByRole("row", { name: /^front 16/ })).toContainText("150.00");

  // Said otherwise: what was said stands there again, names on their pieces.
  await page.goto(`/cases/${id}/runs`);
  await page.getByTestId("run").filter({ hasText: "Lintel" }).getByRole("button", { name: "Add a surface" }).click();
  await expect(page.getByLabel("Name of piece 2")).toHaveValue("back");
  await page.getByLabel("Patches of push").fill("*");
  await page.getByRole("button", { name: "Integrate over it" }).click();
  await expect(page.getByText("yard has its surface; what it gives stands at Balance.").first()).toBeVisible();
  await page.goto(`/cases/${id}/balance`);
  const row = forces.getByRole("row", { name: /^push, N/ });
  await expect(row).toContainText("100.20");
  await expect(row.getByRole("img", { name: "holds", exact: true })).toBeVisible();
  await forces.getByRole("button", { name: "Look at the surface" }).click();
  await expect(forces.locator("canvas")).toHaveAccessibleName(/patches front, back, lid/);
  // Cut at a station, looked at, kept as curves of the run.
  const cuts = forces.getByRole("region", { name: "Curves along cuts" });
  await cuts.getByLabel("Planes across").selectOption("z");
  await cuts.getByLabel("Along").selectOption("x");
  await cuts.getByLabel("At z, mm").fill("700");
  await cuts.getByRole("button", { name: "Cut it" }).click();
  await expect(cuts.getByText("none of the planes cuts the surface")).toBeVisible();
  await cuts.getByLabel("At z, mm").fill("250");
  await cuts.getByLabel("Name towards greater y").fill("p far");
  await cuts.getByLabel("Name towards lesser y").fill("p near");
  await cuts.getByRole("button", { name: "Cut it" }).press("Enter");
  await expect(cuts.locator("svg").getByText("p near at z 0.25")).toBeVisible();
  await sound(page);
  await cuts.getByRole("button", { name: "Keep 2 curves with yard" }).click();
  await expect(page.getByText("The curves are kept with yard; Comparison has them.")).toBeVisible();
  // Readings at points: on one scale with what was computed, and kept as both sides of a comparison.
  const points = forces.getByRole("region", { name: "Measured points" });
  await points.getByLabel("A table with x, y, z and what was measured there").setInputFiles({
    name: "taps.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("x (m),y (m),z (m),tap (Pa)\n0.2,0,0.25,281\n1,0,0.25,200\n0,0.5,0.25,300\n"),
  });
  await expect(
    points.getByText(/Computed less measured over 3 points: mean −0\.333, root mean square 0\.577 Pa .* the largest −1\.00 Pa on line 2\./),
  ).toBeVisible();
  await expect(points.getByRole("row", { name: /^1 200, 0, 250 281\.00 280\.00 −1\.00 0$/ })).toBeVisible();
  await points.getByLabel("Source of the readings").fill("yard, made up");
  await points.getByLabel(/Each is known to/).fill("2 Pa");
  await sound(page);
  await points.getByRole("button", { name: "Keep the points with yard" }).click();
  await expect(page.getByText("The points are kept with yard; Comparison has them.")).toBeVisible();
  const saved = page.waitForEvent("download");
  await forces.getByRole("button", { name: "VTP with patches" }).click();
  expect((await saved).suggestedFilename()).toBe("Surface-of-yard.vtp");
  await page.goto(`/cases/${id}/comparison`);
  await expect(page.getByText(/tap, tap: 1\.0 Pa at 1|Worst at 1\.00?: 1\.00? Pa/).first()).toBeVisible();
});
