import { expect, test } from "@playwright/test";
import { build } from "esbuild";
import { BenchJob } from "../core/problems/build/benchJob.ts";
import { liddedBox } from "../core/problems/build/liddedBox.ts";

test("the solver gives the same record in a browser's worker as in Node", async ({ page }) => {
  const settings = {
    problemId: "lidded-box",
    parameters: Object.fromEntries(liddedBox.parameters.map((p) => [p.key, p.preset])),
    numerics: { scheme: "central" as const, dropOrders: 6, maxIterations: 60 },
    mesh: { nx: 24, ny: 24, gradingX: { kind: "uniform" as const }, gradingY: { kind: "uniform" as const } },
    code: "bench",
  };
  const own = new BenchJob(settings);
  const rows: number[][] = [];
  while (own.underWay) {
    const row = own.step();
    if (row) rows.push(row);
  }
  const bundle = await build({
    stdin: {
      contents: `import { BenchJob } from "./core/problems/build/benchJob.ts"; onmessage = (e) => { const job = new BenchJob(e.data); const rows = []; while (job.underWay) { const r = job.step(); if (r) rows.push(r); } postMessage(rows); };`,
      resolveDir: process.cwd(),
    },
    bundle: true,
    write: false,
    format: "iife",
  });
  await page.goto("/method");
  const theirs = await page.evaluate(
    ([code, data]) =>
      new Promise<number[][]>((resolve) => {
        const worker = new Worker(URL.createObjectURL(new Blob([code as string], { type: "text/javascript" })));
        worker.onmessage = (e) => resolve(e.data);
        worker.postMessage(data);
      }),
    [bundle.outputFiles[0].text, settings] as const,
  );
  expect(theirs).toEqual(rows);
});
