import { generateKeyPairSync } from "node:crypto";
import { mkdtemp, readFile, rm, stat, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { strFromU8, strToU8 } from "fflate";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { zipped } from "../pack/packFiles.ts";
import { unpacked } from "../pack/readPack.ts";
import { folderKey, isSignedBy, publicPart, signed } from "../pack/signature.ts";
import { createCase } from "../usecases/cases.ts";
import { issueReport } from "../usecases/reports.ts";
import { bringSettled } from "../usecases/settledRunForTests.ts";
import { newCase, temporaryStore } from "../usecases/testStore.ts";
import { assessCommand } from "./assess.ts";

let folder = "";
let pack: Uint8Array;
const at = (name: string) => path.join(folder, name);

beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "tin-ruler-cli-"));
  const { store, close } = await temporaryStore("cli");
  const { id } = await createCase(store, newCase({ title: "Curtain" }));
  for (const [k, cells] of [8000, 1000, 125].entries()) await bringSettled(store, id, 62 + 0.01 * 4 ** k, { label: `mesh ${k + 1}`, cells });
  pack = await store.blobs.get((await issueReport(store, id, "H. M.")).archive);
  await close();
  await writeFile(at("pack.zip"), pack);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

async function run(...args: string[]) {
  const [out, err]: string[][] = [[], []];
  const code = await assessCommand(args, { out: (l) => out.push(l), err: (l) => err.push(l) });
  return { code, out: out.join("\n"), err: err.join("\n") };
}

describe("tin-ruler assess", () => {
  test("ends with 0 where every figure comes out the same, and says how far it is meanwhile", async () => {
    const { code, out, err } = await run(at("pack.zip"));
    expect(code).toBe(0);
    expect(out).toMatch(
      /^Curtain, report 1, issued .* by H\. M\.\n\d+ files; sum of their list [0-9a-f]{64}\nAll \d+ files are those that were packed/,
    );
    expect(err).toContain("Assessing Curtain ...");
  });
  test("ends with 1 where a figure was changed, and names file and line", async () => {
    const files = unpacked(pack);
    const report = strToU8(strFromU8(files["report.json"]).replace(/"rows": \[\s+\[\s+"mesh 1"/, (t) => t.replace("mesh 1", "mesh 9")));
    await writeFile(at("forged.zip"), zipped({ ...files, "report.json": report }, new Date()));
    const { code, out } = await run(at("forged.zip"));
    expect(code).toBe(1);
    expect(out).toContain("report.json is not as it was packed");
    expect(out).toMatch(/Comes out otherwise:\n {2}.*mesh 9.*: issued .*, now without it/);
    const json = JSON.parse((await run(at("forged.zip"), "--json")).out);
    expect(json).toMatchObject({ holds: false, changed: [expect.stringContaining("report.json")] });
  });
  test.each([
    [[], "tin-ruler assess <pack.zip>"],
    [["a", "b"], "tin-ruler assess <pack.zip>"],
    [["nowhere.zip"], "nowhere.zip is not there."],
    [["pack.zip", "--signature", "s"], "tin-ruler assess <pack.zip>"],
    [["--wrong"], "--wrong"],
  ])("%j ends with 2 and a sentence", async (args, sentence) => {
    const { code, err, out } = await run(...args);
    expect([code, out]).toEqual([2, ""]);
    expect(err).toContain(sentence);
  });
});

describe("a detached signature", () => {
  test("is made with the folder's own key, which is made once and for its owner alone", async () => {
    const keys = await Promise.all([folderKey(folder), folderKey(folder)]);
    expect(publicPart(keys[0])).toBe(publicPart(keys[1]));
    expect((await stat(at("signing-key.pem"))).mode & 0o777).toBe(0o600);
    expect(await readFile(at("signing-key.pem"), "utf8")).toContain("PRIVATE KEY");
    expect(publicPart(keys[0])).not.toContain("PRIVATE");
  });
  test("holds for this file and this key, and for no other", async () => {
    const key = await folderKey(folder);
    const signature = signed(pack, key);
    expect(isSignedBy(pack, signature, publicPart(key))).toBe(true);
    const other = Uint8Array.from(pack);
    other[other.length >> 1] ^= 1;
    expect(isSignedBy(other, signature, publicPart(key))).toBe(false);
    expect(isSignedBy(pack, signature, publicPart(generateKeyPairSync("ed25519").privateKey))).toBe(false);
    expect(() => isSignedBy(pack, signature, "none")).toThrow("BEGIN PUBLIC KEY");
    expect(() => isSignedBy(pack, signature, publicPart(generateKeyPairSync("ec", { namedCurve: "P-256" }).privateKey))).toThrow("of kind ec");
  });
  test("is checked by the command", async () => {
    const key = await folderKey(folder);
    await writeFile(at("pack.sig"), signed(pack, key));
    await writeFile(at("key.pem"), publicPart(key));
    await writeFile(at("other.pem"), publicPart(generateKeyPairSync("ed25519").privateKey));
    const right = await run(at("pack.zip"), "--signature", at("pack.sig"), "--key", at("key.pem"));
    expect([right.code, right.out]).toEqual([0, expect.stringContaining("The signature is that of this key")]);
    const wrong = await run(at("pack.zip"), "--signature", at("pack.sig"), "--key", at("other.pem"));
    expect([wrong.code, wrong.out]).toEqual([1, expect.stringContaining("not one of this key")]);
  });
});
