import { bisect } from "../numeric/bisect.ts";

/** State ahead of and behind a wave: density kg/m^3, velocity m/s along x, pressure Pa. */
export interface TubeState {
  readonly density: number;
  readonly velocity: number;
  readonly pressure: number;
}

/**
 * Exact solution of the Riemann problem of a perfect gas.
 * @returns the state at x / t, m/s
 * @throws {RangeError} A vacuum between the two states, or a state that is no gas.
 * @source Toro, Riemann Solvers and Numerical Methods for Fluid Dynamics, 3rd ed., ch. 4
 */
export function riemannSolution(
  left: TubeState,
  right: TubeState,
  gamma: number,
): { at: (xOverT: number) => TubeState; star: { pressure: number; velocity: number }; waves: Record<"left" | "contact" | "right", number> } {
  const sound = (s: TubeState) => Math.sqrt((gamma * s.pressure) / s.density);
  const [cl, cr] = [sound(left), sound(right)];
  if (!(cl > 0 && cr > 0)) throw new RangeError("Density and pressure on both sides must be positive.");
  if ((2 / (gamma - 1)) * (cl + cr) <= right.velocity - left.velocity)
    throw new RangeError("The two sides part so fast that a vacuum opens between them.");
  const across = (p: number, s: TubeState, c: number) => {
    if (p <= s.pressure) return ((2 * c) / (gamma - 1)) * ((p / s.pressure) ** ((gamma - 1) / (2 * gamma)) - 1);
    const a = 2 / ((gamma + 1) * s.density);
    const b = ((gamma - 1) / (gamma + 1)) * s.pressure;
    return (p - s.pressure) * Math.sqrt(a / (p + b));
  };
  const miss = (p: number) => across(p, left, cl) + across(p, right, cr) + right.velocity - left.velocity;
  let top = Math.max(left.pressure, right.pressure);
  while (miss(top) < 0) top *= 2;
  const p = bisect(miss, 1e-14 * Math.min(left.pressure, right.pressure), top);
  const u = 0.5 * (left.velocity + right.velocity) + 0.5 * (across(p, right, cr) - across(p, left, cl));
  const ratio = (gamma - 1) / (gamma + 1);
  const behind = (s: TubeState) =>
    p > s.pressure ? (s.density * (p / s.pressure + ratio)) / ((ratio * p) / s.pressure + 1) : s.density * (p / s.pressure) ** (1 / gamma);
  const shock = (s: TubeState, c: number) => c * Math.sqrt(((gamma + 1) / (2 * gamma)) * (p / s.pressure) + (gamma - 1) / (2 * gamma));
  const side = (s: TubeState, c: number, xi: number, sign: 1 | -1): TubeState => {
    // Seen so that the wave runs to the left: sign turns velocities for the right side.
    const un = sign * s.velocity;
    const x = sign * xi;
    const star = { density: behind(s), velocity: u, pressure: p };
    if (p > s.pressure) return x < un - shock(s, c) ? s : star;
    const tail = sign * u - c * (p / s.pressure) ** ((gamma - 1) / (2 * gamma));
    if (x < un - c) return s;
    if (x > tail) return star;
    const q = 2 / (gamma + 1) + (ratio / c) * (un - x);
    return {
      density: s.density * q ** (2 / (gamma - 1)),
      velocity: (sign * 2 * (c + ((gamma - 1) / 2) * un + x)) / (gamma + 1),
      pressure: s.pressure * q ** ((2 * gamma) / (gamma - 1)),
    };
  };
  return {
    at: (xi) => (xi < u ? side(left, cl, xi, 1) : side(right, cr, xi, -1)),
    star: { pressure: p, velocity: u },
    waves: {
      left: p > left.pressure ? left.velocity - shock(left, cl) : left.velocity - cl,
      contact: u,
      right: p > right.pressure ? right.velocity + shock(right, cr) : right.velocity + cr,
    },
  };
}

export interface ObliqueShock {
  /** angle of the shock to the oncoming flow, rad */
  readonly angle: number;
  readonly pressureRatio: number;
  readonly densityRatio: number;
  readonly machBehind: number;
}

/** Angle an oblique shock of a given angle turns the flow by, rad. */
const turningOf = (mach: number, b: number, gamma: number) =>
  Math.atan((2 / Math.tan(b)) * ((mach * mach * Math.sin(b) ** 2 - 1) / (mach * mach * (gamma + Math.cos(2 * b)) + 2)));

/**
 * The largest angle an attached shock can turn a flow by, and the shock's own angle there, rad.
 * @source Liepmann & Roshko, Elements of Gasdynamics (1957), section 4.3; the angle in closed form
 */
export function largestTurning(mach: number, gamma: number): { readonly turning: number; readonly angle: number } {
  if (!(mach > 1)) throw new RangeError(`Mach number ${mach} must be above 1.`);
  const m2 = mach * mach;
  const g = gamma + 1;
  const sin2 = ((g / 4) * m2 - 1 + Math.sqrt(g * (1 + ((gamma - 1) / 2) * m2 + (g / 16) * m2 * m2))) / (gamma * m2);
  const angle = Math.asin(Math.sqrt(sin2));
  return { turning: turningOf(mach, angle, gamma), angle };
}

/**
 * Attached oblique shock that turns a supersonic flow by an angle: the weak one, unless the strong one is asked for.
 * @param turning rad, positive
 * @throws {RangeError} Not supersonic, or turned so far that the shock would stand off.
 * @source Anderson, Modern Compressible Flow, 3rd ed., section 4.3; Liepmann & Roshko, Elements of Gasdynamics (1957)
 */
export function obliqueShock(mach: number, turning: number, gamma: number, branch: "weak" | "strong" = "weak"): ObliqueShock {
  // The largest turning of an attached shock is found first: on either side of it one solution is left.
  const largest = largestTurning(mach, gamma);
  if (!(turning > 0 && turning < largest.turning)) {
    const degrees = (x: number) => ((x * 180) / Math.PI).toFixed(2);
    throw new RangeError(
      `A flow at Mach ${mach} cannot be turned by ${degrees(turning)} degrees through an attached shock; at most by ${degrees(largest.turning)}.`,
    );
  }
  const miss = (x: number) => turningOf(mach, x, gamma) - turning;
  const angle = branch === "weak" ? bisect(miss, Math.asin(1 / mach), largest.angle) : bisect((x) => -miss(x), largest.angle, Math.PI / 2);
  const normal = normalShock(mach * Math.sin(angle), gamma);
  return { angle, pressureRatio: normal.pressureRatio, densityRatio: normal.densityRatio, machBehind: normal.machBehind / Math.sin(angle - turning) };
}

/** Jump across a normal shock. @source Liepmann & Roshko, Elements of Gasdynamics (1957) */
export function normalShock(mach: number, gamma: number) {
  const m2 = mach * mach;
  const pressureRatio = 1 + ((2 * gamma) / (gamma + 1)) * (m2 - 1);
  const densityRatio = ((gamma + 1) * m2) / ((gamma - 1) * m2 + 2);
  const machBehind = Math.sqrt((1 + ((gamma - 1) / 2) * m2) / (gamma * m2 - (gamma - 1) / 2));
  const behind = 1 + ((gamma - 1) / 2) * machBehind ** 2;
  const ahead = 1 + ((gamma - 1) / 2) * m2;
  return { pressureRatio, densityRatio, machBehind, totalPressureRatio: pressureRatio * (behind / ahead) ** (gamma / (gamma - 1)) };
}

/** Angle a sonic flow has turned through when it reaches a Mach number, rad. @source Liepmann & Roshko, Elements of Gasdynamics (1957) */
export function expansionAngle(mach: number, gamma: number): number {
  const k = Math.sqrt((gamma + 1) / (gamma - 1));
  const b = Math.sqrt(mach * mach - 1);
  return k * Math.atan(b / k) - Math.atan(b);
}

/** Mach number and pressure ratio behind an expansion that turns a supersonic flow away by an angle, rad. */
export function cornerExpansion(mach: number, turning: number, gamma: number): { machBehind: number; pressureRatio: number } {
  if (!(mach > 1)) throw new RangeError(`Mach number ${mach} must be above 1.`);
  const target = expansionAngle(mach, gamma) + turning;
  if (!(turning > 0) || target > expansionAngle(50, gamma)) throw new RangeError("The corner turns the flow further than it can expand.");
  const machBehind = bisect((m) => expansionAngle(m, gamma) - target, mach, 50);
  const part = (m: number) => 1 + ((gamma - 1) / 2) * m * m;
  return { machBehind, pressureRatio: (part(mach) / part(machBehind)) ** (gamma / (gamma - 1)) };
}

/** Area over the throat's at a Mach number, one-dimensional isentropic flow. */
export function areaRatio(mach: number, gamma: number): number {
  return ((2 / (gamma + 1)) * (1 + ((gamma - 1) / 2) * mach * mach)) ** ((gamma + 1) / (2 * (gamma - 1))) / mach;
}

/** Mach number where the area is so many times the throat's. */
export function machOfArea(ratio: number, gamma: number, branch: "subsonic" | "supersonic"): number {
  if (!(ratio >= 1)) throw new RangeError(`Area ratio ${ratio} must not lie below 1.`);
  if (ratio === 1) return 1;
  return branch === "subsonic" ? bisect((m) => ratio - areaRatio(m, gamma), 1e-9, 1) : bisect((m) => areaRatio(m, gamma) - ratio, 1, 60);
}

export interface DuctFlow {
  /** Mach number and pressure over inlet total pressure, where the area is so many times the throat's */
  readonly at: (areaOverThroat: number, downstream: boolean) => { readonly mach: number; readonly pressure: number };
  /** area over throat's at the shock, undefined where there is none */
  readonly shockArea?: number;
  readonly choked: boolean;
}

/**
 * One-dimensional flow through a duct with a throat between a reservoir and a given pressure at the exit.
 * @param back exit pressure over reservoir pressure
 * @throws {RangeError} A back pressure for which no flow with or without a shock inside exists.
 */
export function ductFlow(exitArea: number, back: number, gamma: number): DuctFlow {
  const part = (m: number) => (1 + ((gamma - 1) / 2) * m * m) ** (-gamma / (gamma - 1));
  const highest = part(machOfArea(exitArea, gamma, "subsonic"));
  const lowest = part(machOfArea(exitArea, gamma, "supersonic"));
  if (back >= highest) {
    if (!(back < 1)) throw new RangeError("The pressure at the exit must lie below the reservoir's.");
    // Subsonic all through: the sonic area is smaller than the throat.
    const exitMach = Math.sqrt((2 / (gamma - 1)) * (back ** (-(gamma - 1) / gamma) - 1));
    const factor = areaRatio(exitMach, gamma) / exitArea;
    const at = (a: number) => {
      const mach = machOfArea(Math.max(1, a * factor), gamma, "subsonic");
      return { mach, pressure: part(mach) };
    };
    return { at, choked: false };
  }
  const isentropic = (a: number, downstream: boolean) => {
    const mach = machOfArea(Math.max(1, a), gamma, downstream ? "supersonic" : "subsonic");
    return { mach, pressure: part(mach) };
  };
  const behind = (shockArea: number, a: number) => {
    const total = normalShock(machOfArea(shockArea, gamma, "supersonic"), gamma).totalPressureRatio;
    const mach = machOfArea(Math.max(1, a * total), gamma, "subsonic");
    return { mach, pressure: total * part(mach) };
  };
  const shockAtExit = behind(exitArea, exitArea).pressure;
  if (back <= shockAtExit) {
    if (back > lowest * 1.0001)
      throw new RangeError(
        "At this exit pressure a shock stands outside the duct; inside, the flow is shock-free and the pressure is not the one given.",
      );
    return { at: isentropic, choked: true };
  }
  const shockArea = bisect((s) => back - behind(s, exitArea).pressure, 1 + 1e-9, exitArea);
  return { at: (a, downstream) => (downstream && a > shockArea ? behind(shockArea, a) : isentropic(a, downstream)), shockArea, choked: true };
}
