import { type Complex, divided, times } from "../numeric/complex.ts";
import { solution, within } from "./solution.ts";

interface Shape {
  readonly thickness: number;
  readonly camber: number;
  readonly incidence: number;
}

/** Circle about (-thickness, camber) through 1, in units of the mapping's constant, and the angle of that point seen from its centre. */
const circleOf = ({ thickness, camber }: Shape) => ({
  radius: Math.hypot(1 + thickness, camber),
  back: Math.asin(camber / Math.hypot(1 + thickness, camber)),
});

interface SurfacePoint {
  readonly x: number;
  readonly y: number;
  readonly cp: number;
}

/** Surface point and pressure coefficient at an angle on the circle, rad, counted from the trailing edge. */
function surface(p: Shape, angle: number): SurfacePoint {
  const { radius, back } = circleOf(p);
  const t = angle - back;
  const out: Complex = [radius * Math.cos(t), radius * Math.sin(t)];
  const zeta: Complex = [out[0] - p.thickness, out[1] + p.camber];
  const inverse = divided([1, 0], zeta);
  // On the circle the velocity is along it: its size is enough.
  const around = 2 * (Math.sin(t - p.incidence) + Math.sin(p.incidence + back));
  const square = times(inverse, inverse);
  const stretch = Math.hypot(1 - square[0], square[1]);
  // At the trailing edge both vanish; the limit is taken a hair's breadth beside it.
  const speed = stretch > 1e-9 ? Math.abs(around) / stretch : Number.NaN;
  return { x: zeta[0] + inverse[0], y: zeta[1] + inverse[1], cp: 1 - speed * speed };
}

/** Longest distance of the surface from the trailing edge: the true chord; with the angle it is found at. */
function chordOf(p: Shape): { readonly chord: number; readonly nose: number } {
  const far = (a: number) => {
    const s = surface(p, a);
    return Math.hypot(s.x - 2, s.y);
  };
  let [low, high] = [Math.PI / 2, (3 * Math.PI) / 2];
  const golden = (Math.sqrt(5) - 1) / 2;
  for (let k = 0; k < 90; k++) {
    const [a, b] = [high - golden * (high - low), low + golden * (high - low)];
    if (far(a) > far(b)) high = b;
    else low = a;
  }
  const nose = (low + high) / 2;
  return { chord: far(nose), nose };
}

/** Lift coefficient on the true chord. */
export function conformalLift(p: Shape): number {
  const { radius, back } = circleOf(p);
  return (8 * Math.PI * radius * Math.sin(p.incidence + back)) / chordOf(p).chord;
}

/** Profile mapped from a circle, with its pressure. */
export const conformalProfile = solution({
  id: "conformal-profile",
  name: "Profile mapped from a circle",
  subject: "Ideal flow",
  words: "joukowski zhukovsky conformal map aerofoil airfoil lift pressure coefficient potential",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "z = \\zeta + 1/\\zeta, \\qquad |\\zeta + m - i h| = R = \\sqrt{(1+m)^2+h^2}",
    "c_l = \\frac{8\\pi R}{c}\\sin(\\alpha+\\beta), \\quad \\sin\\beta = h/R, \\qquad C_p = 1-\\left|\\frac{2\\sin(\\vartheta-\\alpha)+2\\sin(\\alpha+\\beta)}{1-\\zeta^{-2}}\\right|^2",
  ],
  source: "Milne-Thomson, Theoretical Aerodynamics, chapters VI and VII; chord: the longest distance from the trailing edge",
  physics: { inviscid: true, space: "plane" },
  parameters: [
    { key: "thickness", label: "Shift of the circle back (thickness)", symbol: "m", unit: "", preset: 0.1, low: 0.001, high: 0.5 },
    { key: "camber", label: "Shift of the circle up (camber)", symbol: "h", unit: "", preset: 0.1, low: 0, high: 0.5 },
    { key: "incidence", label: "Incidence to the x axis", symbol: "\\alpha", unit: "rad", preset: 0.0698131701, low: -0.5, high: 0.5 },
  ],
  range: (p) => [
    within("The size of the incidence, which a real flow follows only while it stays attached, in rad,", Math.abs(p.incidence), { high: 0.21 }),
  ],
  values: (p) => [
    { key: "cl", name: "lift coefficient on the true chord", unit: "", value: conformalLift(p) },
    { key: "chord", name: "chord over the mapping's constant", unit: "", value: chordOf(p).chord },
    { key: "cd", name: "drag coefficient", unit: "", value: 0 },
  ],
  curves: (p) => {
    const { chord, nose } = chordOf(p);
    const along = (a: number) => 1 - (2 - surface(p, a).x) / chord;
    const lead = along(nose);
    const ends = { x: { name: "x over chord", unit: "" }, y: { name: "pressure coefficient", unit: "" }, from: Math.max(0, lead) + 1e-3, to: 0.999 };
    /** angle on the circle whose point lies at a place of the chord, on one side */
    const angleAt = (x: number, upper: boolean) => {
      let [near, far] = upper ? [1e-6, nose] : [2 * Math.PI - 1e-6, nose];
      for (let k = 0; k < 70; k++) {
        const middle = (near + far) / 2;
        if (along(middle) > x) near = middle;
        else far = middle;
      }
      return near;
    };
    return (["upper", "lower"] as const).map((side) => ({
      key: side,
      name: `pressure coefficient, ${side} side`,
      ...ends,
      sample: (xs: readonly number[]) => xs.map((x) => surface(p, angleAt(x, side === "upper")).cp),
    }));
  },
});
