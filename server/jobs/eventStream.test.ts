import { expect, test } from "vitest";
import { runEvents } from "./eventStream.ts";
import { publish } from "./events.ts";

const state = (n: number) => ({ type: "state", runId: `r${n}`, state: "running" }) as const;

test("one stream tells of all cases, beats, and ends with its signal", async () => {
  const ending = new AbortController();
  const reader = runEvents(ending.signal, 10).getReader();
  const next = async () => new TextDecoder().decode((await reader.read()).value);
  expect(await next()).toBe(": here\n\n");
  publish("a", state(1));
  publish("b", state(2));
  expect(JSON.parse((await next()).slice(6))).toEqual({ caseId: "a", event: state(1) });
  expect(JSON.parse((await next()).slice(6))).toEqual({ caseId: "b", event: state(2) });
  expect(await next()).toBe(": here\n\n");
  ending.abort();
  while (!(await reader.read()).done);
  publish("a", state(3));
});

test("a listener that never reads is ended; what comes after is not kept for it", async () => {
  const stream = runEvents(new AbortController().signal);
  for (let k = 0; k < 5000; k++) publish("a", state(k));
  const reader = stream.getReader();
  let kept = 0;
  while (!(await reader.read()).done) kept++;
  expect(kept).toBeGreaterThan(1000);
  expect(kept).toBeLessThan(2100);
});

test("one that is cancelled hears nothing more", async () => {
  const reader = runEvents(new AbortController().signal).getReader();
  await reader.cancel();
  publish("a", state(1));
  expect((await reader.read()).done).toBe(true);
});
