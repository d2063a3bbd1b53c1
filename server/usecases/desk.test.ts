import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import type { Asking, Desk } from "../desk/desk.ts";
import { deskHere, setUpDesk } from "../desk/desk.ts";
import type { TaskName } from "../desk/tasks.ts";
import type { Told } from "../desk/told.ts";
import { findReport } from "../repositories/findings.ts";
import { updateRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";
import { giveUpReport, issueReport, reportUnderWay } from "./reports.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("on-the-desk"));
});
afterAll(() => close());
afterEach(() => setUpDesk(undefined));

/** A desk that does some tasks its own way, and counts how often each is asked for. */
function deskWith(own: Partial<Record<TaskName, (asking: Asking) => Promise<unknown>>>): Map<TaskName, number> {
  const asked = new Map<TaskName, number>();
  const made: Desk = {
    ask: (task, input, asking = {}) => {
      asked.set(task, (asked.get(task) ?? 0) + 1);
      return (own[task]?.(asking) ?? deskHere.ask(task, input, asking)) as never;
    },
    close: async () => undefined,
  };
  setUpDesk(made);
  return asked;
}

async function withRuns(...labels: string[]) {
  const { id } = await createCase(opened, newCase());
  const runs = [];
  for (const [k, label] of labels.entries()) runs.push(await bringSettled(opened, id, 2000 + k, { label, cells: 100 * 4 ** k }));
  return { id, runs };
}

describe("assessments", () => {
  test("pages that ask at once share one; asked again, it is at hand", async () => {
    const { id } = await withRuns("fine");
    const asked = deskWith({});
    const [a, b] = await Promise.all([openCase(opened, id), openCase(opened, id)]);
    expect(asked.get("assess")).toBe(1);
    expect(a.assessment).toEqual(b.assessment);
    expect((await openCase(opened, id)).assessment).toEqual(a.assessment);
    expect(asked.get("assess")).toBe(1);
  });
  test("what took too long is not tried again at every visit; other evidence is", async () => {
    const { id, runs } = await withRuns("fine");
    const sentence = "The assessment took longer than 180 s and was ended; nothing was stored.";
    const asked = deskWith({ assess: async () => Promise.reject(new UseCaseError("invalid", sentence)) });
    await expect(openCase(opened, id)).rejects.toThrow(sentence);
    await expect(openCase(opened, id)).rejects.toThrow(sentence);
    expect(asked.get("assess")).toBe(1);
    await updateRun(opened.db, runs[0].id, { label: "finest" });
    await expect(openCase(opened, id)).rejects.toThrow(sentence);
    expect(asked.get("assess")).toBe(2);
  });
  test("what broke for another reason is tried again", async () => {
    const { id } = await withRuns("fine");
    let broken = true;
    deskWith({ assess: async () => (broken ? Promise.reject(new Error("a thread ended")) : undefined) as never });
    await expect(openCase(opened, id)).rejects.toThrow("a thread ended");
    broken = false;
    setUpDesk(undefined);
    expect((await openCase(opened, id)).assessment.settling[0].quantities).toHaveLength(1);
  });
  test("of two runs the one whose stored result is none is left out, by its name alone", async () => {
    const { id, runs } = await withRuns("coarse", "fine");
    await updateRun(opened.db, runs[0].id, { result: { quantities: { drag: 1 }, profiles: 7 } as never });
    const book = await openCase(opened, id);
    expect(book.damaged).toEqual(["The stored result of coarse is none; run it again or delete it."]);
    expect(book.assessment.ladder).toEqual([runs[1].id]);
    expect(book.assessment.settling.map((s) => s.runId)).toContain(runs[1].id);
  });
});

describe("reports", () => {
  test("one that is being made says how far it is, can be given up, and leaves nothing behind", async () => {
    const { id } = await withRuns("fine");
    expect(reportUnderWay(id)).toBeUndefined();
    deskWith({
      report: ({ told, signal }) =>
        new Promise((_, reject) => {
          told?.({ done: 3, of: 9, what: "Setting the pages" });
          signal?.addEventListener("abort", () => reject(new UseCaseError("conflict", "It was given up; nothing was stored.")));
        }),
    });
    const made = issueReport(opened, id, "A. B.");
    await expect.poll(() => reportUnderWay(id)).toEqual({ done: 3, of: 9, what: "Setting the pages" });
    giveUpReport(id);
    await expect(made).rejects.toMatchObject({ code: "conflict" });
    expect(reportUnderWay(id)).toBeUndefined();
    expect(await findReport(opened.db, id, 1)).toBeUndefined();
    setUpDesk(undefined);
    expect((await issueReport(opened, id, "A. B.")).number).toBe(1);
    giveUpReport(id);
  });
  test("two asked for at once get two numbers, and tell what they are at on the way", async () => {
    const { id } = await withRuns("fine");
    const steps: string[] = [];
    const hear = (heard: Told, told?: Asking["told"]) => {
      steps.push(`${heard.done}/${heard.of} ${heard.what}`);
      told?.(heard);
    };
    const hearing: Desk = {
      ask: (task, input, asking) => deskHere.ask(task, input, { ...asking, told: (t) => hear(t, asking?.told) }),
      close: async () => undefined,
    };
    setUpDesk(hearing);
    const [a, b] = await Promise.all([issueReport(opened, id, "A. B."), issueReport(opened, id, "C. D.")]);
    expect([a.number, b.number]).toEqual([1, 2]);
    expect(steps[0]).toBe("0/1 Writing the chapters");
    expect(steps.at(-1)).toMatch(/^(\d+)\/(\d+) Packing it$/);
    expect(steps.filter((s) => s.endsWith("Setting the pages")).length).toBeGreaterThan(8);
  });
});
