import { type ChildProcess, spawn } from "node:child_process";
import { mkdir, mkdtemp, rm, symlink } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { FolderInUse, lockFolder } from "./folderLock.ts";

let root = "";
const children: ChildProcess[] = [];
beforeAll(async () => {
  root = await mkdtemp(path.join(tmpdir(), "tin-ruler-lock-"));
});
afterEach(() => {
  for (const c of children.splice(0)) c.kill("SIGKILL");
});
afterAll(() => rm(root, { recursive: true, force: true }));

const HOLD = `import { lockFolder } from "./server/db/folderLock.ts";
lockFolder(process.argv[1]).then(() => { console.log("held"); setInterval(() => {}, 1e6); }, (e) => { console.log(e.name); process.exit(); });`;

/** Another process that tries to take a folder; its first word is "held" or the error's name. */
async function another(folder: string): Promise<{ word: string; child: ChildProcess }> {
  const child = spawn(process.execPath, ["--import", "tsx", "--input-type=module", "-e", HOLD, folder]);
  children.push(child);
  const word = await new Promise<string>((resolve) => child.stdout.once("data", (d) => resolve(String(d).trim())));
  return { word, child };
}

test("a suspended holder keeps its folder; one that was killed has let go at once", async () => {
  const folder = path.join(root, "one");
  const { word, child } = await another(folder);
  expect(word).toBe("held");
  await expect(lockFolder(folder)).rejects.toThrow(`(process ${child.pid})`);
  child.kill("SIGSTOP");
  await expect(lockFolder(folder)).rejects.toThrow(FolderInUse);
  const gone = new Promise((resolve) => child.once("exit", resolve));
  child.kill("SIGKILL");
  await gone;
  await (await lockFolder(folder))();
});

test("of several that start together one gets in", async () => {
  for (let round = 0; round < 3; round++) {
    const words = (await Promise.all([1, 2, 3, 4].map(() => another(path.join(root, `race ${round}`))))).map((x) => x.word);
    expect(words.filter((w) => w === "held")).toHaveLength(1);
    expect(words.filter((w) => w === "FolderInUse")).toHaveLength(3);
  }
});

test("another name of the same folder is the same folder; a folder beside it is not", async () => {
  await mkdir(path.join(root, "true"));
  await symlink(path.join(root, "true"), path.join(root, "other name"));
  const release = await lockFolder(path.join(root, "true", "data"));
  await expect(lockFolder(path.join(root, "other name", "data"))).rejects.toThrow(FolderInUse);
  await expect(lockFolder(path.join(root, "true", ".", "data", "x", ".."))).rejects.toThrow(FolderInUse);
  await (await lockFolder(path.join(root, "true", "data2")))();
  await release();
  await (await lockFolder(path.join(root, "other name", "data")))();
});
