import { expect, test } from "vitest";
import { DEFAULT_NUMERICS } from "@/core/problems/describe/caseSetup";
import type { RunView } from "../../view";
import { copyEntries, copyInput } from "./copyEntries";

const uniform = { kind: "uniform" } as const;
const mesh = { nx: 24, ny: 12, gradingX: uniform, gradingY: uniform };
const run = (problemId: string, numerics: object = {}, more: object = {}) =>
  ({
    settings: { problemId, parameters: {}, numerics: { ...DEFAULT_NUMERICS, ...numerics }, mesh: { ...mesh, ...more }, code: "bench" },
  }) as unknown as RunView;

test("a copy that changes nothing asks for the cells, numerics and stop rules of the old run", () => {
  const old = run("lidded-box", { dropOrders: 7, stop: { longestS: 90, onceSteady: true } });
  expect(copyInput("lidded-box", copyEntries(old))).toEqual({
    nx: 24,
    ny: 12,
    scheme: "central",
    courant: undefined,
    dropOrders: 7,
    maxIterations: 400,
    longestS: 90,
    onceSteady: true,
    priority: 0,
  });
});

test("empty figures are none, not zero; a start is sent only where one was chosen", () => {
  const typed = copyEntries(run("lidded-box"));
  expect(typed).toMatchObject({ courant: "", longestS: "", onceSteady: "no", startFrom: "" });
  const input = copyInput("lidded-box", { ...typed, longestS: " ", priority: "-5", startFrom: "b2" });
  expect(input).toMatchObject({ longestS: undefined, onceSteady: false, priority: -5, startFrom: "b2" });
  expect(copyInput("lidded-box", typed)).not.toHaveProperty("startFrom");
});

test("a flux and a limiter belong to a gas alone, a cell shape to a problem that has a choice", () => {
  const gas = copyInput("shock-tube", copyEntries(run("shock-tube", { courant: 0.4, limiter: "bounds" })));
  expect(gas).toMatchObject({ riemannFlux: "contact", limiter: "bounds", courant: 0.4 });
  expect(copyInput("lidded-box", copyEntries(run("lidded-box")))).not.toHaveProperty("riemannFlux");
  expect(copyInput("lidded-box", copyEntries(run("lidded-box")))).not.toHaveProperty("shape");
  expect(copyInput("wake", copyEntries(run("wake", {}, { shape: "hexagons" })))).toMatchObject({ shape: "hexagons" });
  expect(copyInput("wake", copyEntries(run("wake")))).toMatchObject({ shape: "rows" });
});
