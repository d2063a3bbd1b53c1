import type { Typed3 } from "./said";

interface Props {
  readonly label: string;
  readonly value: Typed3;
  readonly set: (value: Typed3) => void;
  /** what stands around says what it is */
  readonly unseenLabel?: boolean;
}

/** Three numbers side by side, along x, y and z. */
export function Typed3Field({ label, value, set, unseenLabel }: Props) {
  return (
    <fieldset className="m-0 border-0 p-0">
      <legend className={unseenLabel ? "sr-only" : "text-[11.5px] text-ink-2"}>{label}</legend>
      <span className="flex gap-1">
        {value.map((v, d) => (
          <input
            key={"xyz"[d]}
            className="field w-16!"
            aria-label={`${label}, ${"xyz"[d]}`}
            value={v}
            onChange={(e) => set(value.map((old, k) => (k === d ? e.target.value : old)) as unknown as Typed3)}
          />
        ))}
      </span>
    </fieldset>
  );
}
