import { type Camera, FIRST_LOOK } from "./scene";

const STEP = Math.PI / 24;
const UPRIGHT = Math.PI / 2;

const turned = (c: Camera, by: number, lift: number): Camera => ({
  ...c,
  turn: c.turn + by,
  lift: Math.max(-UPRIGHT, Math.min(UPRIGHT, c.lift + lift)),
});

/** Looks along the axes, by the name of where from. */
export function sidesOf(up: Camera["up"]): readonly (readonly [string, Pick<Camera, "turn" | "lift">])[] {
  const name = (axis: number) => "xyz"[(up + axis) % 3];
  return [
    [`from −${name(1)}`, { turn: -UPRIGHT, lift: 0 }],
    [`from +${name(1)}`, { turn: UPRIGHT, lift: 0 }],
    [`from −${name(2)}`, { turn: 0, lift: 0 }],
    [`from +${name(2)}`, { turn: 2 * UPRIGHT, lift: 0 }],
    ["from above", { turn: 0, lift: UPRIGHT }],
    ["from below", { turn: 0, lift: -UPRIGHT }],
  ];
}

/** What a key makes of the camera; undefined where it is none of its keys. */
export function afterKey(c: Camera, key: string, shift: boolean): Camera | undefined {
  const move = (dx: number, dy: number): Camera => ({ ...c, shift: [c.shift[0] + dx, c.shift[1] + dy] });
  switch (key) {
    case "ArrowLeft":
      return shift ? move(0.1, 0) : turned(c, STEP, 0);
    case "ArrowRight":
      return shift ? move(-0.1, 0) : turned(c, -STEP, 0);
    case "ArrowUp":
      return shift ? move(0, -0.1) : turned(c, 0, STEP);
    case "ArrowDown":
      return shift ? move(0, 0.1) : turned(c, 0, -STEP);
    case "+":
    case "=":
      return { ...c, zoom: Math.min(40, c.zoom * 1.2) };
    case "-":
      return { ...c, zoom: Math.max(0.2, c.zoom / 1.2) };
    case "0":
      return { ...FIRST_LOOK, up: c.up };
    default:
      return undefined;
  }
}

/** A drag of so many half heights: turns, or with the other button shifts. */
export const afterDrag = (c: Camera, dx: number, dy: number, shifts: boolean): Camera =>
  shifts ? { ...c, shift: [c.shift[0] + dx, c.shift[1] - dy] } : turned(c, -1.6 * dx, 1.6 * dy);

export const afterWheel = (c: Camera, delta: number): Camera => ({ ...c, zoom: Math.max(0.2, Math.min(40, c.zoom * Math.exp(-delta / 600))) });
