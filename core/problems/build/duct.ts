import { joinBlocks } from "../../mesh/blocks.ts";
import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { totalPressureRatio } from "../../solver/gas/gas.ts";
import type { GasPhysics } from "../../solver/gas/gasSpace.ts";
import { SteadyGas } from "../../solver/gas/steadyGas.ts";
import { inviscidGas } from "../describe/common.ts";
import type { DuctParameters } from "../describe/duct.ts";
import { contouredDuct as descriptionContouredDuct } from "../describe/duct.ts";
import type { MeshSpec } from "../describe/runSettings.ts";
import { contour, theory, contouredDuct as truthContouredDuct } from "../truth/duct.ts";
import { problem } from "./problem.ts";

/** A duct whose height follows its contour: one mapped block, the half above the middle. */
export function ductMesh(p: DuctParameters, spec: Pick<MeshSpec, "nx" | "ny">): FaceMesh {
  return joinBlocks([
    {
      nx: spec.nx,
      ny: spec.ny,
      place: (s, t) => [s * p.lengthM, (t * contour(p, s) * p.throatM) / 2],
      sides: { left: "inlet", right: "outlet", bottom: "middle", top: "wall" },
    },
  ]);
}

/** Stagnation state at the inlet, a given back pressure at the outlet, walls without friction. */
export function ductPhysics(p: DuctParameters): GasPhysics {
  const flow = theory(p);
  return {
    gas: inviscidGas(p),
    boundaries: {
      inlet: { kind: "total-inlet", totalPressurePa: p.totalPressurePa, totalTemperatureK: p.totalTemperatureK },
      outlet: { kind: "static-outlet", pressurePa: p.backRatio * p.totalPressurePa },
      middle: { kind: "slip" },
      wall: { kind: "slip" },
    },
    // From the one-dimensional flow, but where a shock stands only up to just above the speed of sound: where it stands is left to the solver.
    initial: (x) => {
      const s = x / p.lengthM;
      const { mach } = flow.at(contour(p, s), s > 0.5);
      const m = flow.shockArea === undefined ? mach : Math.min(mach, 1.05);
      const part = 1 + ((p.gamma - 1) / 2) * m * m;
      const pressure = p.totalPressurePa / totalPressureRatio(p.gamma, m);
      const temperature = p.totalTemperatureK / part;
      return [pressure / (p.gasConstant * temperature), m * Math.sqrt(p.gamma * p.gasConstant * temperature), 0, pressure] as const;
    },
  };
}

/** Area-mean pressure over the reservoir's, and Mach number from it and the mass flow, in every column. */
function columns(sim: SteadyGas, p: DuctParameters, mesh: FaceMesh) {
  const [{ nx, ny }] = mesh.structure ?? [{ nx: 0, ny: 0 }];
  const { w } = sim.space;
  return Array.from({ length: nx }, (_, i) => {
    let [pressure, mach, volume, x] = [0, 0, 0, 0];
    for (let j = 0; j < ny; j++) {
      const c = j * nx + i;
      const v = mesh.volumeM2[c];
      pressure += v * w[4 * c + 3];
      mach += v * (w[4 * c + 1] / Math.sqrt((p.gamma * w[4 * c + 3]) / w[4 * c]));
      x += v * mesh.centroidM[2 * c];
      volume += v;
    }
    return { s: x / volume / p.lengthM, pressure: pressure / volume / p.totalPressurePa, mach: mach / volume };
  });
}

function readings(sim: SteadyGas, p: DuctParameters, mesh: FaceMesh): Record<string, number> {
  const list = columns(sim, p, mesh);
  const at = (s: number, key: "pressure" | "mach") => {
    const k = Math.max(
      1,
      list.findIndex((c) => c.s >= s),
    );
    const [a, b] = [list[k - 1], list[k]];
    return a[key] + ((s - a.s) / (b.s - a.s)) * (b[key] - a[key]);
  };
  let mass = 0;
  const outlet = mesh.boundaries.find((b) => b.name === "outlet");
  if (outlet) for (let f = outlet.start; f < outlet.start + outlet.count; f++) mass += sim.space.out[4 * (f - mesh.joinCount)];
  let steepest = 0;
  let shock = Number.NaN;
  for (let k = 1; k < list.length; k++) {
    const fall = list[k - 1].mach - list[k].mach;
    if (!(fall > steepest && list[k - 1].mach > 1)) continue;
    steepest = fall;
    const share = (list[k - 1].mach - 1) / Math.max(fall, 1e-9);
    shock = list[k - 1].s + Math.min(1, share) * (list[k].s - list[k - 1].s);
  }
  return { massFlow: 2 * mass, throatPressure: at(0.5, "pressure"), machDown: at(0.6, "mach"), exitMach: list[list.length - 1].mach, shockAt: shock };
}

/** A duct that narrows to a throat and widens again between a reservoir and a given pressure. */
export const contouredDuct = problem<DuctParameters, FaceMesh, SteadyGas>({
  ...descriptionContouredDuct,
  ...truthContouredDuct,
  mesh: (p, spec) => ductMesh(p, spec),
  simulate: (p, mesh, n) =>
    new SteadyGas(mesh, ductPhysics(p), {
      riemannFlux: n.riemannFlux ?? "contact",
      limiter: n.limiter ?? "smooth",
      maxIterations: n.maxIterations,
      dropOrders: n.dropOrders,
    }),
  evaluate: readings,
  profiles: (sim, p, mesh) => {
    const list = columns(sim, p, mesh);
    const s = list.map((c) => c.s);
    return [
      {
        key: "mach",
        name: "Mach number along the duct",
        abscissa: { name: "x/L", unit: "1", values: s },
        value: { name: "M", unit: "1", values: list.map((c) => c.mach) },
      },
      {
        key: "pressure",
        name: "pressure along the duct",
        abscissa: { name: "x/L", unit: "1", values: s },
        value: { name: "p/p_0", unit: "1", values: list.map((c) => c.pressure) },
      },
    ];
  },
  errorNorms: () => [],
});
