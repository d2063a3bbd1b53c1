import type { Reference } from "../../records/reference.ts";
import { foundUncertainty, LIDDED_BOX_TABLES, type LiddedBoxTable } from "../../tables/liddedBox.ts";
import { nearest } from "../describe/common.ts";
import type { LiddedBoxParameters } from "../describe/liddedBox.ts";
import type { ProblemTruth } from "../describe/problem.ts";

const reynoldsOf = (p: LiddedBoxParameters) => (p.densityKgM3 * p.lidSpeedMS * p.sideM) / p.viscosityPaS;

export const liddedBox: ProblemTruth<LiddedBoxParameters> = {
  yardsticks: (p) => nearest(LIDDED_BOX_TABLES, (t) => t.reynolds, reynoldsOf(p)).map((t) => tableYardstick(t, reynoldsOf(p))),
};

function tableYardstick(t: LiddedBoxTable, reynolds: number): Reference {
  const away = Math.abs(reynolds / t.reynolds - 1);
  const u = (key: string) => {
    const location = key === "vortexX" || key === "vortexY";
    if (t.velocityUncertainty !== undefined) return location ? 5e-5 / Math.sqrt(3) : t.velocityUncertainty;
    return foundUncertainty(key, t);
  };
  const sorted = (points: LiddedBoxTable["u"]) => [...points].sort((a, b) => a[0] - b[0]);
  const profile = (profileKey: string, points: LiddedBoxTable["u"], misprints: LiddedBoxTable["misprintV"]) => {
    const rows = sorted(points);
    return {
      profileKey,
      abscissa: rows.map((r) => r[0]),
      value: rows.map((r) => r[1]),
      standardUncertainty: t.velocityUncertainty ?? foundUncertainty(profileKey === "uMid" ? "uMin" : "vMin", t),
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
      standardUncertainty: u(quantityKey),
      uncertaintyNote: t.uncertaintyNote,
    })),
    profiles: t.u.length ? [profile("uMid", t.u, t.misprintU), profile("vMid", t.v, t.misprintV)] : [],
  };
}
