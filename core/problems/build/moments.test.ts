import { describe, expect, test } from "vitest";
import { packCheckpoint, unpackCheckpoint } from "../../solver/checkpointFile.ts";
import { BenchJob, type KeptMoment } from "./benchJob.ts";
import { settingsOf } from "./problemRunsForTests.ts";

const settings = (id: string, moments?: number) => settingsOf(id, { scale: 0.5, numerics: moments === undefined ? {} : { moments } });

/** Runs a job to its end, or for so many steps, and gathers its moments. */
function gathered(job: BenchJob, steps = Number.POSITIVE_INFINITY): KeptMoment[] {
  const kept: KeptMoment[] = [];
  for (let k = 0; k < steps && job.underWay; k++) {
    job.step();
    const m = job.dueMoment();
    if (m) kept.push(m);
  }
  return kept;
}

describe.each(["shock-tube", "eddies"])("moments of %s", (id) => {
  test("come at even times up to the end, each the first state behind it; the last is the end itself", () => {
    const own = settings(id, 4);
    const job = new BenchJob(own);
    const kept = gathered(job);
    const end = own.parameters.endTimeS;
    expect(kept.map((m) => m.sequence)).toEqual([1, 2, 3, 4]);
    kept.forEach((m, k) => {
      expect(m.timeS).toBeGreaterThanOrEqual(((k + 1) / 4) * end * (1 - 1e-9));
      expect(m.timeS).toBeLessThan(((k + 2) / 4) * end);
    });
    for (const f of job.simulation.fields()) {
      const last = kept[3].fields.find((x) => x.name === f.name);
      expect(last).toMatchObject({ unit: f.unit });
      expect([...(last?.values ?? [])]).toEqual([...Float32Array.from(f.values)]);
    }
    expect([...kept[0].fields[0].values]).not.toEqual([...kept[3].fields[0].values]);
  });
  test("a run that goes on from its checkpoint tells those that are still to come, with the same bits", () => {
    const whole = gathered(new BenchJob(settings(id, 6)));
    const first = new BenchJob(settings(id, 6));
    let before = 0;
    while (before < 3) before += gathered(first, 1).length;
    const again = new BenchJob(settings(id, 6));
    again.restore(unpackCheckpoint(packCheckpoint(first.save())));
    const after = gathered(again);
    expect(after.map((m) => m.sequence)).toEqual([4, 5, 6]);
    after.forEach((m, k) => {
      expect(m).toEqual(whole[3 + k]);
    });
  });
});

test("no moments are kept unless they are asked for, and of a steady run none at all", () => {
  expect(gathered(new BenchJob(settings("shock-tube")))).toEqual([]);
  expect(gathered(new BenchJob(settings("plates", 5)))).toEqual([]);
});
