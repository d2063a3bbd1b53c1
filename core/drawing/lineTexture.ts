import { randomFrom } from "../numeric/random.ts";
import type { Window } from "./cellRaster.ts";

/** pixels noise is gathered over, each way along the flow */
const REACH = 14;
/** how much the gathered noise, which is nearly even, is spread again */
const CONTRAST = 2.4;
const MIDDLE = 128;

/**
 * A texture that runs along a flow: noise gathered along the way of the velocity through every pixel, cell by cell as it is. It shows direction, not
 * sense nor speed; where the flow is still the noise stays as it was.
 * @param ids cell under each pixel, rows from the top; -1 outside
 * @returns brightness of each pixel, 0 to 255, 128 outside
 * @source B. Cabral, L. Leedom, SIGGRAPH 93, 263: line integral convolution
 */
export function lineTexture(
  ids: Int32Array,
  { width, height }: Pick<Window, "width" | "height">,
  u: ArrayLike<number>,
  v: ArrayLike<number>,
): Uint8Array {
  const noise = noiseOf(ids.length);
  const out = new Uint8Array(ids.length).fill(MIDDLE);
  for (let at = 0; at < ids.length; at++) {
    if (ids[at] < 0) continue;
    let [sum, count] = [noise[at], 1];
    for (const sense of [1, -1]) {
      let [x, y] = [(at % width) + 0.5, Math.floor(at / width) + 0.5];
      for (let n = 0; n < REACH; n++) {
        const cell = ids[Math.floor(y) * width + Math.floor(x)];
        const speed = cell < 0 ? 0 : Math.hypot(u[cell], v[cell]);
        if (!(speed > 0)) break;
        // Rows are counted downwards.
        x += (sense * u[cell]) / speed;
        y -= (sense * v[cell]) / speed;
        if (x < 0 || y < 0 || x >= width || y >= height) break;
        const next = Math.floor(y) * width + Math.floor(x);
        if (ids[next] < 0) break;
        sum += noise[next];
        count++;
      }
    }
    const even = MIDDLE + (sum / count - MIDDLE) * (count > 1 ? CONTRAST : 1);
    out[at] = even < 0 ? 0 : even > 255 ? 255 : even;
  }
  return out;
}

/** The same noise for every picture, so that textures of two results can be held against each other. */
function noiseOf(count: number): Uint8Array {
  const random = randomFrom(20);
  return Uint8Array.from({ length: count }, () => 256 * random());
}

const DARKEST = 0.72;

/** Darkens and lightens a painted picture by a texture, in place; what is white stays white. @param rgba four bytes a pixel */
export function textured(rgba: Uint8ClampedArray, texture: Uint8Array, ids: Int32Array): void {
  for (let at = 0; at < texture.length; at++) {
    if (ids[at] < 0) continue;
    const factor = DARKEST + ((2 - 2 * DARKEST) * texture[at]) / 255;
    for (let d = 0; d < 3; d++) rgba[4 * at + d] *= factor;
  }
}
