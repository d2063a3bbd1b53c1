import { gunzipSync } from "node:zlib";
import { afterAll, beforeAll, expect, test } from "vitest";
import { bytesToDoubles } from "../blobs/blobStore.ts";
import type { Store } from "../db/store.ts";
import { saveField } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { drawnField, fieldList, rawField } from "./fields.ts";
import { startFamily } from "./runs.ts";
import { newCase, standIn, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let leave: () => void;
let runId = "";
const values = Float64Array.from({ length: 64 }, (_, i) => Math.sin(i) / 3);

beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("fields"));
  leave = standIn(opened, { bench: { put: async () => undefined, turn: async () => undefined } });
  const { id } = await createCase(opened, newCase({ problemId: "plates", parameters: {} }));
  const uniform = { kind: "uniform" } as const;
  const [run] = await startFamily(opened, id, { baseNx: 8, baseNy: 8, ratio: 2, count: 1, gradingX: uniform, gradingY: uniform });
  runId = run.id;
  const blob = await opened.blobs.put(new Uint8Array(values.buffer));
  for (const name of ["temperature", "p", "u"]) await saveField(opened.db, { runId, name, unit: "1", count: 64, blob, mesh: null });
});
afterAll(async () => {
  leave();
  await close();
});

test("a field comes whole as doubles, and packed in single precision to be drawn", async () => {
  expect([...bytesToDoubles(await rawField(opened, runId, "u"))]).toEqual([...values]);
  const drawn = await drawnField(opened, runId, "u");
  const back = new Float32Array(new Uint8Array(gunzipSync(drawn)).buffer);
  expect([...back]).toEqual([...Float32Array.from(values)]);
  expect(drawn.length).toBeLessThan(values.byteLength);
});

test("velocity and pressure come first in the list; a field that is not there is none", async () => {
  expect((await fieldList(opened, runId)).map((f) => f.name)).toEqual(["u", "p", "temperature"]);
  await expect(rawField(opened, runId, "v")).rejects.toMatchObject({ code: "not-found" });
  await expect(drawnField(opened, runId, "v")).rejects.toThrow("no such field");
});
