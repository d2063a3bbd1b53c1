import { expect, test } from "vitest";
import type { Reference } from "../records/reference.ts";
import { answering } from "./answering.ts";

interface At {
  readonly x: number;
  readonly y: number;
}
const value = (quantityKey: string, v: number) => ({ quantityKey, value: v, uncertaintyNote: "" });
const yardsticks = ({ x, y }: At): Reference[] => {
  if (x > 2.5) throw new RangeError("no solution there");
  return [
    {
      key: "law",
      name: "law",
      kind: "exact",
      source: "",
      validity: { sentence: "", inside: true },
      values: [value("power", 3 * x ** 2 * y ** -0.5), value("constant", 7), ...(y < 1 ? [] : [value("large", 1)])],
      profiles: [],
    },
  ];
};
const varied = (key: keyof At, step: number, at: At) => ({
  key,
  step,
  down: { ...at, [key]: at[key] * (1 - step) },
  up: { ...at, [key]: at[key] * (1 + step) },
});

test("a power law answers with its exponents; a constant, and what is not there to both sides, answers to nothing", () => {
  const at = { x: 2, y: 1 };
  const [law] = answering(yardsticks(at), [varied("x", 0.01, at), varied("y", 0.01, at)], yardsticks);
  const [power, constant, large] = law.values;
  expect(power.answers?.x).toBeCloseTo(2, 12);
  expect(power.answers?.y).toBeCloseTo(-0.5, 3);
  expect(constant).not.toHaveProperty("answers");
  expect(large.answers).toBeUndefined();
});

test("where the solution ends to one side nothing is told of that input; another kind of failure is not hidden", () => {
  const at = { x: 2.49, y: 1 };
  const [law] = answering(yardsticks(at), [varied("x", 0.01, at), varied("y", 0.001, at)], yardsticks);
  expect(Object.keys(law.values[0].answers ?? {})).toEqual(["y"]);
  const broken = () => {
    throw new TypeError("a mistake");
  };
  expect(() => answering(yardsticks(at), [varied("y", 0.01, at)], broken)).toThrow(TypeError);
});

test("with nothing varied the yardsticks are given back as they are", () => {
  const base = yardsticks({ x: 1, y: 1 });
  expect(answering(base, [], yardsticks)).toBe(base);
});
