import { expect, test } from "vitest";
import { askedOf, firstCuts, readableOf } from "./typedCuts";

const LOOK = { low: [0, 0, 0], high: [1121, 579.6, 2100] } as never;

test("at first: three planes across the longest axis, curves along the next, with what the case knows", () => {
  const typed = firstCuts(LOOK, readableOf(["velocity", "shear-x", "pressure"]), { densityKgM3: 1.274 });
  expect(typed).toMatchObject({ across: "2", along: "0", stations: "525.0, 1050, 1575", of: "pressure", density: "1.274 kg/m^3", speed: "" });
  expect(askedOf(typed)).toEqual({
    across: 2,
    along: 0,
    stations: [525, 1050, 1575],
    of: "pressure",
    abscissa: "axis",
    names: ["greater side", "lesser side"],
  });
});

test.each([
  ["200 400", [200, 400]],
  ["0,5; 0,75", [0.5, 0.75]],
  ["1, 2,5, -3", [1, 2.5, -3]],
  ["1e3", [1000]],
])("stations %s", (stations, numbers) => {
  expect(askedOf({ ...firstCuts(LOOK, ["pressure"], {}), stations }).stations).toEqual(numbers);
});

test.each(["", "here", "1 two"])("no stations: %s", (stations) => {
  expect(() => askedOf({ ...firstCuts(LOOK, ["pressure"], {}), stations })).toThrow("no list of numbers");
});

test("what is not known is not read", () => {
  expect(readableOf(["velocity", "shear-x", "temperature"])).toEqual(["shear", "temperature"]);
});
