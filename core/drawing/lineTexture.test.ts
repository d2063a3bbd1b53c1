import { describe, expect, test } from "vitest";
import { lineTexture, textured } from "./lineTexture.ts";

const [width, height] = [80, 60];
/** Two cells: the left half of the picture and the right; a frame of two pixels outside. */
const ids = Int32Array.from({ length: width * height }, (_, at) => {
  const [x, y] = [at % width, Math.floor(at / width)];
  return x < 2 || y < 2 || x >= width - 2 || y >= height - 2 ? -1 : x < width / 2 ? 0 : 1;
});

/** Mean squared step of brightness between pixels of a cell that lie `dx`, `dy` apart. */
function roughness(texture: Uint8Array, cell: number, dx: number, dy: number): number {
  let [sum, count] = [0, 0];
  for (let at = 0; at < ids.length; at++) {
    const next = at + dx + width * dy;
    if (ids[at] !== cell || ids[next] !== cell) continue;
    sum += (texture[at] - texture[next]) ** 2;
    count++;
  }
  return sum / count;
}

describe("a texture along a flow", () => {
  test("changes little along it and much across it, cell by cell", () => {
    const texture = lineTexture(ids, { width, height }, [3, 0], [0, -0.01]);
    expect(roughness(texture, 0, 1, 0)).toBeLessThan(0.15 * roughness(texture, 0, 0, 1));
    expect(roughness(texture, 1, 0, 1)).toBeLessThan(0.15 * roughness(texture, 1, 1, 0));
    expect(texture[0]).toBe(128);
  });
  test("along a slope it runs as the flow does: upwards in the picture where v is positive", () => {
    const texture = lineTexture(ids, { width, height }, [1, 1], [1, 1]);
    expect(roughness(texture, 0, 1, -1)).toBeLessThan(0.3 * roughness(texture, 0, 1, 1));
  });
  test("shows direction alone: neither sense nor speed, and the same each time", () => {
    const texture = lineTexture(ids, { width, height }, [1, 2], [0.5, 0]);
    expect(lineTexture(ids, { width, height }, [-10, -0.1], [-5, 0])).toEqual(texture);
  });
  test("of a still flow is the noise itself, as rough every way", () => {
    const texture = lineTexture(ids, { width, height }, [0, 0], [0, 0]);
    expect(roughness(texture, 0, 1, 0) / roughness(texture, 0, 0, 1)).toBeGreaterThan(0.8);
    expect(roughness(texture, 0, 1, 0)).toBeGreaterThan(5000);
  });
  test("darkens and lightens a picture by a little, evenly, and leaves the paper white", () => {
    const texture = lineTexture(ids, { width, height }, [1, 1], [0, 0]);
    const rgba = new Uint8ClampedArray(4 * ids.length).fill(100);
    textured(rgba, texture, ids);
    const inside = Array.from(ids.keys()).filter((at) => ids[at] >= 0);
    const mean = inside.reduce((s, at) => s + rgba[4 * at], 0) / inside.length;
    expect(Math.abs(mean - 100)).toBeLessThan(3);
    expect(Math.min(...inside.map((at) => rgba[4 * at]))).toBeGreaterThanOrEqual(72);
    expect([rgba[0], rgba[4 * inside[0] + 3]]).toEqual([100, 100]);
  });
});
