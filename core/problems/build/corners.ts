import { cornerExpansion, expansionAngle } from "../../exact/gasDynamics.ts";
import { joinBlocks } from "../../mesh/blocks.ts";
import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { boundaryOf } from "../../monitors/boundary.ts";
import type { GasState } from "../../solver/gas/gas.ts";
import type { GasPhysics } from "../../solver/gas/gasSpace.ts";
import { SteadyGas } from "../../solver/gas/steadyGas.ts";
import { inviscidGas } from "../describe/common.ts";
import type { CornerParameters } from "../describe/corners.ts";
import { corner as descriptionCorner, ramp as descriptionRamp, soundOf } from "../describe/corners.ts";
import type { MeshSpec, Numerics } from "../describe/runSettings.ts";
import { AHEAD, BEHIND, RAD, rampOf, corner as truthCorner, ramp as truthRamp } from "../truth/corners.ts";
import { fieldError } from "./errorNorms.ts";
import type { ProblemDefinition } from "./problem.ts";
import { problem } from "./problem.ts";

const TOP = 1.2;

const READ = [0.4, 1.3] as const;

const gasOf = (p: CornerParameters) => p.pressurePa / (p.gasConstant * p.temperatureK);

const oncoming = (p: CornerParameters): GasState => [gasOf(p), p.mach * soundOf(p), 0, p.pressurePa];

/** sign +1 turns the wall into the flow, -1 away from it */
export function cornerMesh(p: CornerParameters, spec: Pick<MeshSpec, "nx" | "ny">, sign: 1 | -1): FaceMesh {
  const slope = sign * Math.tan(p.angleDeg * RAD);
  return joinBlocks([
    {
      nx: spec.nx,
      ny: spec.ny,
      place: (s, t) => {
        const x = -AHEAD + (AHEAD + BEHIND) * s;
        const wall = x > 0 ? x * slope : 0;
        return [x * p.lengthM, (wall + t * (TOP - wall)) * p.lengthM];
      },
      sides: { left: "inlet", right: "outlet", top: "open", bottom: "wall" },
    },
  ]);
}

/** A uniform supersonic stream along a wall that bends. */
export const cornerPhysics = (p: CornerParameters): GasPhysics => ({
  gas: inviscidGas(p),
  boundaries: {
    inlet: { kind: "state", state: oncoming(p) },
    outlet: { kind: "free-outlet" },
    open: { kind: "free-outlet" },
    wall: { kind: "slip" },
  },
  initial: () => oncoming(p),
});

/** Mean pressure ratio and Mach number along the wall behind the corner. */
function alongWall(sim: SteadyGas, p: CornerParameters, mesh: FaceMesh) {
  const b = boundaryOf(mesh, "wall");
  const rows = Array.from({ length: b.count }, (_, k) => {
    const f = b.start + k;
    return {
      x: mesh.faceCentreM[2 * f] / p.lengthM,
      ratio: sim.space.wallPressure[f - mesh.joinCount] / p.pressurePa,
    };
  }).sort((a, c) => a.x - c.x);
  const read = rows.filter((r) => r.x > READ[0] && r.x < READ[1]);
  return { rows, pressureRatio: read.reduce((s, r) => s + r.ratio, 0) / read.length };
}

/** Mean Mach number between two rays from the corner, clear of the wall, whose corner leaves a trace of its own. */
function machBetween(sim: SteadyGas, p: CornerParameters, mesh: FaceMesh, low: number, high: number): number {
  const { w } = sim.space;
  let [sum, volume] = [0, 0];
  for (let c = 0; c < mesh.cellCount; c++) {
    const [x, y] = [mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1]];
    const seen = Math.atan2(y, x);
    if (x < READ[0] * p.lengthM || x > READ[1] * p.lengthM || seen < low || seen > high) continue;
    sum += mesh.volumeM2[c] * (Math.hypot(w[4 * c + 1], w[4 * c + 2]) / Math.sqrt((p.gamma * w[4 * c + 3]) / w[4 * c]));
    volume += mesh.volumeM2[c];
  }
  return sum / volume;
}

const simulate = (p: CornerParameters, mesh: FaceMesh, n: Numerics) =>
  new SteadyGas(mesh, cornerPhysics(p), {
    riemannFlux: n.riemannFlux ?? "contact",
    limiter: n.limiter ?? "smooth",
    maxIterations: n.maxIterations,
    dropOrders: n.dropOrders,
  });

const shared = {
  simulate,
  profiles: (sim, p, mesh) => {
    const { rows } = alongWall(sim, p, mesh);
    return [
      {
        key: "wall",
        name: "pressure along the wall",
        abscissa: { name: "x/L", unit: "1", values: rows.map((r) => r.x) },
        value: { name: "p/p_1", unit: "1", values: rows.map((r) => r.ratio) },
      },
    ];
  },
} satisfies Partial<ProblemDefinition<CornerParameters, FaceMesh, SteadyGas>>;

/** Angle of the shock, degrees: a straight line through the places where the pressure is halfway between both sides. */
export function shockAngle(sim: SteadyGas, p: CornerParameters, mesh: FaceMesh, pressureRatio: number): number {
  const [{ nx, ny }] = mesh.structure ?? [{ nx: 0, ny: 0 }];
  const half = 0.5 * (1 + pressureRatio) * p.pressurePa;
  const { w } = sim.space;
  let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  for (let i = 0; i < nx; i++) {
    const x = mesh.centroidM[2 * i] / p.lengthM;
    if (x < READ[0] || x > READ[1]) continue;
    for (let j = 0; j + 1 < ny; j++) {
      const [a, b] = [j * nx + i, (j + 1) * nx + i];
      const [pa, pb] = [w[4 * a + 3], w[4 * b + 3]];
      if (!(pa >= half && pb < half)) continue;
      const share = (pa - half) / (pa - pb);
      const y = mesh.centroidM[2 * a + 1] + share * (mesh.centroidM[2 * b + 1] - mesh.centroidM[2 * a + 1]);
      n++;
      sx += x;
      sy += y / p.lengthM;
      sxx += x * x;
      sxy += (x * y) / p.lengthM;
      break;
    }
  }
  return Math.atan((n * sxy - sx * sy) / (n * sxx - sx * sx)) / RAD;
}

/** A wall that turns a supersonic flow into itself. */
export const ramp = problem<CornerParameters, FaceMesh, SteadyGas>({
  ...descriptionRamp,
  ...truthRamp,
  ...shared,
  mesh: (p, spec) => cornerMesh(p, spec, 1),
  evaluate: (sim, p, mesh) => {
    const s = rampOf(p);
    const turn = p.angleDeg * RAD;
    return {
      shockAngle: shockAngle(sim, p, mesh, s.pressureRatio),
      pressureRatio: alongWall(sim, p, mesh).pressureRatio,
      machBehind: machBetween(sim, p, mesh, turn + 0.3 * (s.angle - turn), turn + 0.7 * (s.angle - turn)),
    };
  },
  errorNorms: (sim, p, mesh) => {
    const s = rampOf(p);
    const slope = Math.tan(s.angle);
    const pressure = Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + 3]);
    return [fieldError(mesh, "p", "Pa", pressure, (x, y) => (y < x * slope ? s.pressureRatio : 1) * p.pressurePa)];
  },
});

/** Pressure over the oncoming one in the fan at a point, from the angle it is seen at from the corner. */
function fanPressure(p: CornerParameters, x: number, y: number): number {
  const { machBehind, pressureRatio } = cornerExpansion(p.mach, p.angleDeg * RAD, p.gamma);
  const part = (m: number) => (1 + ((p.gamma - 1) / 2) * m * m) ** (p.gamma / (p.gamma - 1));
  const seen = Math.atan2(y, x);
  const ray = (m: number) => Math.asin(1 / m) - (expansionAngle(m, p.gamma) - expansionAngle(p.mach, p.gamma));
  if (seen >= ray(p.mach)) return 1;
  if (seen <= ray(machBehind)) return pressureRatio;
  let [a, b] = [p.mach, machBehind];
  for (let k = 0; k < 60; k++) {
    const m = (a + b) / 2;
    if (ray(m) > seen) a = m;
    else b = m;
  }
  return part(p.mach) / part((a + b) / 2);
}

/** A wall that turns away from a supersonic flow. */
export const corner = problem<CornerParameters, FaceMesh, SteadyGas>({
  ...descriptionCorner,
  ...truthCorner,
  ...shared,
  mesh: (p, spec) => cornerMesh(p, spec, -1),
  evaluate: (sim, p, mesh) => {
    const turn = -p.angleDeg * RAD;
    const last = Math.asin(1 / cornerExpansion(p.mach, p.angleDeg * RAD, p.gamma).machBehind) + turn;
    return {
      pressureRatio: alongWall(sim, p, mesh).pressureRatio,
      machBehind: machBetween(sim, p, mesh, turn + 0.3 * (last - turn), turn + 0.7 * (last - turn)),
    };
  },
  errorNorms: (sim, p, mesh) => {
    const pressure = Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + 3]);
    return [fieldError(mesh, "p", "Pa", pressure, (x, y) => fanPressure(p, x, y) * p.pressurePa)];
  },
});
