import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { insertYardstick } from "../repositories/cases.ts";
import { findRun, listSweeps } from "../repositories/runs.ts";
import { createCase, saveQuestion } from "./cases.ts";
import { ConditionInput, stateCondition } from "./conditionsOfRuns.ts";
import { openCase } from "./evidence.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { FOREIGN_PARAMETERS, newCase, questionOf, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("conditions"));
});
afterAll(() => close());

const at = (input: object) => ConditionInput.parse(input);
const speed = (value: string) => at({ key: "velocityMS", value });
const yardstick = (profileKey: string) => ({
  key: "",
  name: "Fan law",
  kind: "table" as const,
  source: "made up",
  validity: { sentence: "", inside: true },
  values: [],
  profiles: [{ profileKey, abscissa: [1, 2, 3, 4], value: [2, 8, 18, 32], standardUncertainty: 0.1, uncertaintyNote: "" }],
});

/** A case at 2 m/s with one run there and two made elsewhere. */
async function three() {
  const { id } = await createCase(opened, newCase({ title: "Fan", parameters: FOREIGN_PARAMETERS }));
  const runs = [await bringSettled(opened, id, 8.1, { label: "at 2", cells: 1000 })];
  for (const [label, value, cells] of [
    ["at 1", 2.1, 1010],
    ["at 3", 18.2, 990],
  ] as const)
    runs.push(await bringSettled(opened, id, value, { label, cells }));
  return { id, runs };
}

describe("brought-in runs at other conditions", () => {
  test("are a curve over the condition with the case's own run, compared with a yardstick over it; they leave the case's meshes", async () => {
    const { id, runs } = await three();
    expect((await openCase(opened, id)).assessment.ladder.length).toBe(3);
    await stateCondition(opened, runs[1].id, speed("1 m/s"));
    await stateCondition(opened, runs[2].id, speed("10.8 km/h"));
    expect((await listSweeps(opened.db, id)).length).toBe(1);
    await insertYardstick(opened.db, id, yardstick("sweep-velocityMS-q1"));
    const book = await openCase(opened, id);
    expect(book.assessment.ladder).toEqual([runs[0].id]);
    const [found] = book.assessment.comparison.profiles;
    expect(found).toMatchObject({ code: "c", leading: true, sweep: { axisKey: "velocityMS", notRun: [4] } });
    expect(found.points.map((p) => [p.at, p.difference])).toEqual([
      [1, expect.closeTo(0.1, 6)],
      [2, expect.closeTo(0.1, 6)],
      [3, expect.closeTo(0.2, 6)],
    ]);
    expect(found.outside).toBe(1);
  });
  test("a family is placed at once, all of it or none", async () => {
    const { id, runs } = await three();
    const whole = { key: "velocityMS", value: "1 m/s", also: [runs[2].id, runs[1].id] };
    const nobody = "00000000-0000-4000-8000-000000000000";
    await expect(stateCondition(opened, runs[1].id, at({ ...whole, also: [runs[2].id, nobody] }))).rejects.toThrow("no such run");
    expect((await openCase(opened, id)).assessment.ladder.length).toBe(3);
    const other = await three();
    await expect(stateCondition(opened, runs[1].id, at({ ...whole, also: [other.runs[1].id] }))).rejects.toThrow("no such run");
    await stateCondition(opened, runs[1].id, at(whole));
    expect((await openCase(opened, id)).assessment.ladder).toEqual([runs[0].id]);
    const moved = await Promise.all([1, 2].map((i) => findRun(opened.db, runs[i].id)));
    expect(new Set(moved.map((r) => r?.setupHash)).size).toBe(1);
    expect(moved.map((r) => r?.settings.mesh)).toEqual([runs[1].settings.mesh, runs[2].settings.mesh]);
  });
  test("put back, a run is one of the case's own meshes again, bit for bit as it was", async () => {
    const { id, runs } = await three();
    const before = await findRun(opened.db, runs[1].id);
    await stateCondition(opened, runs[1].id, speed("1 m/s"));
    expect((await findRun(opened.db, runs[1].id))?.setupHash).not.toBe(before?.setupHash);
    await stateCondition(opened, runs[1].id, at({}));
    expect(await findRun(opened.db, runs[1].id)).toEqual(before);
    expect((await openCase(opened, id)).assessment.ladder.length).toBe(3);
  });
  test("a condition of one's own name needs a unit once; the case's own run, which says nothing of it, is no place of it", async () => {
    const { id, runs } = await three();
    await stateCondition(opened, runs[1].id, at({ name: "Damper angle", unit: "deg", value: "10" }));
    await stateCondition(opened, runs[2].id, at({ name: "Damper angle", unit: "deg", value: "30 deg" }));
    const { evidence } = await openCase(opened, id);
    expect(evidence.sweeps?.flatMap((s) => [s.axis.label, s.axis.unit, ...s.points.map((p) => p.at)])).toEqual([
      "Damper angle",
      "deg",
      10,
      "Damper angle",
      "deg",
      30,
    ]);
    await expect(stateCondition(opened, runs[0].id, at({ name: "Damper angle", unit: "m", value: "1" }))).rejects.toThrow("counted in deg already");
  });
  test("what the case's other conditions were changed to since makes the set one of an earlier set-up", async () => {
    const { id, runs } = await three();
    await stateCondition(opened, runs[1].id, speed("1 m/s"));
    expect((await openCase(opened, id)).evidence.sweeps).toBeDefined();
    await saveQuestion(opened, id, questionOf({ parameters: { ...FOREIGN_PARAMETERS, lengthM: "60 mm" } }));
    expect((await openCase(opened, id)).evidence.sweeps).toBeUndefined();
  });
  test.each([
    [{ key: "velocityMS", value: "fast" }, "value"],
    [{ key: "velocityMS", value: "-1 m/s" }, "value"],
    [{ name: "Angle", unit: "parsnips", value: "1" }, "unit"],
  ])("%o is refused where it stands", async (input, field) => {
    const { runs } = await three();
    await expect(stateCondition(opened, runs[1].id, at(input))).rejects.toMatchObject({ details: { [field]: expect.any(String) } });
  });
  test("a condition the case has not, and a run that is none, are said to be so", async () => {
    const { runs } = await three();
    await expect(stateCondition(opened, runs[1].id, at({ key: "humidity", value: "1" }))).rejects.toThrow("no such condition");
    await expect(stateCondition(opened, "00000000-0000-4000-8000-000000000000", speed("1"))).rejects.toThrow("no such run");
  });
});
