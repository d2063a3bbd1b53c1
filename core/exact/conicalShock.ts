import { bisect } from "../numeric/bisect.ts";
import { integrate, type Slope } from "../numeric/ode.ts";
import { normalShock } from "./gasDynamics.ts";
import { GAMMA, MACH } from "./parameters.ts";
import { solution } from "./solution.ts";

interface Cone {
  readonly mach: number;
  readonly halfAngle: number;
  readonly gamma: number;
}

/** Radial and cross velocity over the largest velocity, by the angle from the axis. */
const slope =
  (gamma: number): Slope =>
  (t, [r, c], out) => {
    const a2 = ((gamma - 1) / 2) * (1 - r * r - c * c);
    out[0] = c;
    out[1] = (c * c * r - a2 * (2 * r + c / Math.tan(t))) / (a2 - c * c);
  };

/** Velocity over the largest, by Mach number. */
const share = (mach: number, gamma: number) => Math.sqrt(1 / (1 + 2 / ((gamma - 1) * mach * mach)));

/** State right behind a shock of a given angle: velocity parts over the largest velocity. */
function behind({ mach, gamma }: Cone, angle: number): readonly [number, number] {
  const v = share(mach, gamma);
  const { densityRatio } = normalShock(mach * Math.sin(angle), gamma);
  return [v * Math.cos(angle), (-v * Math.sin(angle)) / densityRatio];
}

/** Cross velocity at the cone for a shock of a given angle: nought where the two belong together, positive where the shock is too steep. */
const miss = (p: Cone, angle: number, tolerance = 1e-9) => {
  const [c] = integrate(slope(p.gamma), angle, behind(p, angle), [p.halfAngle], tolerance).map((y) => y[1]);
  return Number.isFinite(c) ? c : 1;
};

/** The weak shock's angle. @throws {RangeError} No attached one. */
function shockAngle(p: Cone): number {
  if (!(p.mach > 1)) throw new RangeError(`Mach number ${p.mach} must be above 1.`);
  const low = Math.max(Math.asin(1 / p.mach), p.halfAngle) + 1e-7;
  const steps = 60;
  for (let k = 1; k <= steps; k++) {
    const high = low + ((Math.PI / 2 - 1e-6 - low) * k) / steps;
    if (miss(p, high) > 0) return bisect((b) => miss(p, b, 1e-12), low + ((Math.PI / 2 - 1e-6 - low) * (k - 1)) / steps, high);
  }
  throw new RangeError("The cone is too blunt for an attached shock at this Mach number.");
}

/** Flow over a cone: shock angle, and the state on the cone's surface. */
export function coneFlow(p: Cone): { readonly angle: number; readonly machOnCone: number; readonly pressureRatio: number } {
  const angle = shockAngle(p);
  const jump = normalShock(p.mach * Math.sin(angle), p.gamma);
  const after = behind(p, angle);
  const [onCone] = integrate(slope(p.gamma), angle, after, [p.halfAngle], 1e-12);
  const machOf = (v: number) => Math.sqrt(2 / ((p.gamma - 1) * (1 / (v * v) - 1)));
  const part = (m: number) => (1 + ((p.gamma - 1) / 2) * m * m) ** (p.gamma / (p.gamma - 1));
  const [machAfter, machOnCone] = [machOf(Math.hypot(...after)), machOf(Math.hypot(...onCone))];
  return { angle, machOnCone, pressureRatio: (jump.pressureRatio * part(machAfter)) / part(machOnCone) };
}

/** Velocity along the ray and across it, over the largest velocity, at ascending angles from the axis between cone and shock. */
export function coneVelocities(p: Cone, angles: readonly number[]): Float64Array[] {
  const angle = shockAngle(p);
  return integrate(slope(p.gamma), angle, behind(p, angle), [...angles].reverse(), 1e-12).reverse();
}

/** Supersonic flow along the axis of a pointed cone. */
export const conicalShock = solution({
  id: "conical-shock",
  name: "Shock on a cone",
  subject: "Gas: waves and shocks",
  words: "taylor maccoll cone supersonic axisymmetric attached",
  nature: "similarity",
  uncertainty: 0,
  formulas: [
    "\\frac{\\gamma-1}{2}\\left(1-v_r^2-v_r'^2\\right)\\left(2v_r+v_r'\\cot\\theta+v_r''\\right)-v_r'\\left(v_rv_r'+v_r'v_r''\\right) = 0, \\qquad v_\\theta = v_r', \\quad v_\\theta(\\theta_c) = 0",
  ],
  source: "Taylor & Maccoll, Proc. R. Soc. A 139, 278 (1933); perfect gas",
  physics: { compressible: true, inviscid: true, space: "axisymmetric" },
  parameters: [
    MACH,
    { key: "halfAngle", label: "Half angle of the cone", symbol: "\\theta_c", unit: "rad", preset: 0.1745329252, low: 0.01, high: 1 },
    GAMMA,
  ],
  range: () => [{ inside: true, sentence: "Exact for a perfect gas while the shock is attached." }],
  values: (p) => {
    const s = coneFlow(p);
    return [
      { key: "angle", name: "angle of the shock", unit: "rad", value: s.angle },
      { key: "pressure", name: "pressure on the cone over that ahead", unit: "", value: s.pressureRatio },
      { key: "mach", name: "Mach number on the cone", unit: "", value: s.machOnCone },
      { key: "cp", name: "pressure coefficient on the cone", unit: "", value: (2 * (s.pressureRatio - 1)) / (p.gamma * p.mach ** 2) },
    ];
  },
  curves: (p) => {
    const { angle } = coneFlow(p);
    return [
      {
        key: "mach",
        name: "Mach number from the cone to the shock",
        x: { name: "angle from the axis", unit: "rad" },
        y: { name: "Mach number", unit: "" },
        from: p.halfAngle,
        to: angle,
        sample: (places) => coneVelocities(p, places).map((y) => Math.sqrt(2 / ((p.gamma - 1) * (1 / Math.hypot(y[0], y[1]) ** 2 - 1)))),
      },
    ];
  },
});
