import type { Yardstick } from "../../records/yardstick.ts";
import { classicalUncertainty, LIDDED_BOX_TABLES, type LiddedBoxTable } from "../../tables/liddedBox.ts";
import { nearest } from "./common.ts";
import type { Parameters, ProblemDescription } from "./problem.ts";

const reynoldsOf = (p: Parameters) => (p.densityKgM3 * p.lidSpeedMS * p.sideM) / p.viscosityPaS;

/** Square box of fluid driven by its sliding lid. */
export const liddedBox: ProblemDescription = {
  id: "lidded-box",
  title: "Lidded box",
  kind: "published",
  tests:
    "Convection and pressure-velocity coupling in a closed box. Extrema and vortex centre approach published spectral figures at order 2; the lid's force does not converge, its shear is infinite at two corners.",
  parameters: [
    { key: "sideM", label: "Side of the box", unit: "m", preset: 0.05, min: 1e-5, max: 100, help: "The box is square." },
    { key: "lidSpeedMS", label: "Speed of the lid", unit: "m/s", preset: (1000 * 1.74e-5) / (1.274 * 0.05), min: 1e-9, max: 1000, help: "Along +x." },
    { key: "densityKgM3", label: "Density", unit: "kg/m^3", preset: 1.274, min: 1e-3, max: 2e4, help: "Of the fluid, constant." },
    { key: "viscosityPaS", label: "Dynamic viscosity", unit: "Pa s", preset: 1.74e-5, min: 1e-8, max: 1e4, help: "Of the fluid, constant." },
  ],
  quantities: [
    { key: "uMin", name: "lowest mid-plane velocity", symbol: "u_min/U", unit: "1", limit: 0.01 },
    { key: "vMax", name: "highest cross velocity", symbol: "v_max/U", unit: "1", limit: 0.01 },
    { key: "vMin", name: "lowest cross velocity", symbol: "v_min/U", unit: "1", limit: 0.01 },
    { key: "vortexX", name: "vortex centre, x", symbol: "x_c/L", unit: "1", limit: 0.01 },
    { key: "vortexY", name: "vortex centre, y", symbol: "y_c/L", unit: "1", limit: 0.01 },
    { key: "psiMin", name: "stream function at the centre", symbol: "psi/(U L)", unit: "1", limit: 0.01 },
    { key: "lidForce", name: "lid force coefficient", symbol: "F/(rho U^2 L)", unit: "1", limit: 0.02, derivative: true },
  ],
  family: {
    baseNx: 32,
    baseNy: 32,
    ratio: 2,
    count: 3,
    gradingX: { kind: "both-ends", strength: 1.5 },
    gradingY: { kind: "both-ends", strength: 1.5 },
  },
  formalOrder: 2,
  order: "Order 2 in extrema and vortex centre; the lid's force does not converge.",
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: false },
  graded: true,
  numerics: {},
  similarity: [
    {
      key: "reynolds",
      label: "Reynolds number",
      preset: 1000,
      sets: "lidSpeedMS",
      solve: (re, p) => (re * p.viscosityPaS) / (p.densityKgM3 * p.sideM),
      note: "Published tables exist for 100, 400 and 1000.",
    },
  ],
  reference: (p) => ({ velocityMS: p.lidSpeedMS, lengthM: p.sideM, velocityName: "lid speed", lengthName: "side" }),
  yardsticks: (p) => nearest(LIDDED_BOX_TABLES, (t) => t.reynolds, reynoldsOf(p)).map((t) => tableYardstick(t, reynoldsOf(p))),
};

function tableYardstick(t: LiddedBoxTable, reynolds: number): Yardstick {
  const away = Math.abs(reynolds / t.reynolds - 1);
  const u = (key: string, value: number) => {
    const location = key === "vortexX" || key === "vortexY";
    if (t.velocityUncertainty !== undefined) return location ? 5e-5 / Math.sqrt(3) : t.velocityUncertainty;
    return classicalUncertainty(key, value);
  };
  const sorted = (points: LiddedBoxTable["u"]) => [...points].sort((a, b) => a[0] - b[0]);
  const profile = (profileKey: string, points: LiddedBoxTable["u"], misprints: LiddedBoxTable["misprintV"]) => {
    const rows = sorted(points);
    const peak = Math.max(...rows.map((r) => Math.abs(r[1])).filter((q) => q < 1));
    return {
      profileKey,
      abscissa: rows.map((r) => r[0]),
      value: rows.map((r) => r[1]),
      standardUncertainty: t.velocityUncertainty ?? classicalUncertainty(profileKey === "uMid" ? "uMin" : "vMin", peak),
      uncertaintyNote: t.uncertaintyNote,
      doubtful: (misprints ?? []).map((m) => ({ index: rows.findIndex((r) => r[0] === m.x), reason: m.reason })),
    };
  };
  return {
    key: t.id,
    name: t.name,
    kind: "table",
    source: t.source,
    validity: { sentence: `Holds at Re ${t.reynolds}; this case has Re ${reynolds.toPrecision(5)}.`, inside: away < 1e-3 },
    values: Object.entries(t.extrema).map(([quantityKey, value]) => ({
      quantityKey,
      value,
      standardUncertainty: u(quantityKey, value),
      uncertaintyNote: t.uncertaintyNote,
    })),
    profiles: t.u.length ? [profile("uMid", t.u, undefined), profile("vMid", t.v, t.misprintV)] : [],
  };
}
