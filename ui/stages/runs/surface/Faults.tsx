import { percent, significant } from "@/core/formatting/number";
import type { SurfaceLook } from "@/core/intake/surfaceLook";
import { placeText } from "../../../space/placeText";

/** What the surface is, and what is wrong with it, in sentences. */
export function Faults({ look, unit }: { readonly look: SurfaceLook; readonly unit: string }) {
  const [first] = look.shells;
  const said = [
    `${look.faces} faces on ${look.points} points, ${look.high.map((v, d) => significant(v - look.low[d], 4)).join(" by ")} ${unit}.`,
    look.shells.length === 1
      ? `They hang together${first.closed ? `, closed round ${significant(first.volume ?? 0, 4)} ${unit}³` : ""}.`
      : `They are ${look.shells.length} parts that do not touch, ${look.shells.filter((s) => s.closed).length} of them closed.`,
  ];
  const wrong = [
    ...look.rims.map((r) => `Open along ${r.edges} edges, ${significant(r.length, 3)} ${unit} in all, at ${placeText(r.at)}.`),
    look.turned.faces ? `${look.turned.faces} faces go round against their neighbours, the first at ${placeText(look.turned.at ?? [])}.` : "",
    look.twice ? `${look.twice} faces are there twice.` : "",
    look.crowded ? `At ${look.crowded} edges three faces or more meet.` : "",
    look.oneSided ? `It has one side only: at ${look.oneSided} edges no choice of turning its faces agrees.` : "",
    !look.rims.length && first && first.gap > 1e-10 && first.closed ? `Its area vectors leave ${percent(first.gap)} of its area.` : "",
  ].filter(Boolean);
  return (
    <div className="text-[12.5px]">
      <p>{said.join(" ")}</p>
      {wrong.map((w) => (
        <p key={w}>
          <b className="font-[600]">{w}</b>
        </p>
      ))}
      {look.notes.map((n) => (
        <p key={n} className="text-[12px] text-ink-2">
          {n}
        </p>
      ))}
    </div>
  );
}
