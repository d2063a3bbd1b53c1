import { expect, test } from "vitest";
import { WARM_WALL, warmWallUncertainty } from "./warmWall.ts";

test("a place is told no closer than its last digit, and no closer than the sources agree", () => {
  for (const t of WARM_WALL) {
    const { uMaxAt, vMaxAt, ...others } = warmWallUncertainty(t);
    for (const [key, u] of [
      ["uMaxAt", uMaxAt],
      ["vMaxAt", vMaxAt],
    ] as const) {
      // 95 % of what is rounded to a thousandth lies within 0.000475.
      expect(2 * u).toBeGreaterThan(0.000475);
      expect(u / t[key]).toBeGreaterThanOrEqual(0.003);
    }
    for (const [key, u] of Object.entries(others)) expect(u / t[key as keyof typeof others]).toBeLessThan(0.0021);
  }
});

test("places found by polynomials through seven lines lie within what is stated (docs/tables.md)", () => {
  const found = new Map([
    [1e6, 0.03776],
    [1e7, 0.02131],
    [1e8, 0.01201],
  ]);
  for (const t of WARM_WALL) {
    const place = found.get(t.rayleigh);
    if (place !== undefined) expect(Math.abs(place - t.vMaxAt)).toBeLessThan(2 * warmWallUncertainty(t).vMaxAt);
  }
});
