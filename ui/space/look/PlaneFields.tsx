import { Field } from "../../forms/Field";
import { type PlaneEntry, reachOf } from "./entries";
import { Sweep, Tick } from "./PanelParts";
import type { Result } from "./useResults";

/** One plane that cuts, and how it is swept. */
export function PlaneFields(p: {
  readonly number: number;
  readonly plane: PlaneEntry;
  readonly room: NonNullable<Result["look"]>;
  readonly mistake: string | undefined;
  readonly clipped: boolean;
  readonly clip: (on: boolean) => void;
  readonly set: (change: Partial<PlaneEntry>) => void;
  readonly remove: () => void;
}) {
  const { plane, number } = p;
  const [low, high] = reachOf(plane, p.room);
  const named = `cut ${number + 1}`;
  return (
    <fieldset className="border border-line bg-sheet px-2 py-1.5">
      <legend className="px-1 text-[11.5px] text-ink-2">Cut {number + 1}</legend>
      <div className="grid grid-cols-2 gap-2">
        <Field
          label="Across"
          words
          value={plane.across}
          choices={[
            ["0", "x"],
            ["1", "y"],
            ["2", "z"],
            ["askew", "a direction"],
          ]}
          onChange={(across) => {
            const reach = reachOf({ ...plane, across }, p.room);
            p.set({ across, at: String(Number(((reach[0] + reach[1]) / 2).toPrecision(4))) });
          }}
        />
        <Field
          label={plane.across === "askew" ? "At, along it" : `At ${"xyz"[Number(plane.across)]}`}
          value={plane.at}
          onChange={(v) => p.set({ at: v })}
        />
      </div>
      {plane.across === "askew" ? <Field label="Direction across it" value={plane.normal} onChange={(normal) => p.set({ normal })} /> : null}
      {p.mistake ? <p className="mistake">{p.mistake}</p> : null}
      <Sweep label={`Sweep ${named}`} value={plane.at} low={low} high={high} onChange={(at) => p.set({ at })} />
      <div className="mt-1 flex items-baseline justify-between">
        <Tick label="cut all away beyond it" value={p.clipped} onChange={p.clip} />
        <button type="button" className="link text-[12px] text-ink-3" aria-label={`Take ${named} away`} onClick={p.remove}>
          take away
        </button>
      </div>
    </fieldset>
  );
}
