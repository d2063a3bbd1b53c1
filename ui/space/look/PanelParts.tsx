import type { ReactNode } from "react";
import { significant } from "@/core/formatting/number";
import { typedNumber } from "../../forms/typedNumber";

export function Part({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <section aria-label={name} className="mt-3 flex flex-col gap-1.5 border-t border-line pt-2">
      <h2>{name}</h2>
      {children}
    </section>
  );
}

export function Tick({ label, value, onChange }: { readonly label: string; readonly value: boolean; readonly onChange: (on: boolean) => void }) {
  return (
    <label className="flex items-center gap-1.5 text-[12px]">
      <input type="checkbox" checked={value} onChange={(e) => onChange(e.target.checked)} /> {label}
    </label>
  );
}

/** Steps a sweep is made in. */
const STEPS = 200;

/** A slider over a range, beside the field in which the same value is typed. */
export function Sweep(p: {
  readonly label: string;
  readonly value: string;
  readonly low: number;
  readonly high: number;
  readonly onChange: (value: string) => void;
}) {
  const { low, high } = p;
  const value = typedNumber(p.value);
  return (
    <>
      <input
        type="range"
        className="mt-1 w-full"
        aria-label={p.label}
        aria-valuetext={p.value}
        min={0}
        max={STEPS}
        value={Number.isFinite(value) && high > low ? Math.round((STEPS * (value - low)) / (high - low)) : 0}
        onChange={(e) => p.onChange(String(Number((low + (Number(e.target.value) * (high - low)) / STEPS).toPrecision(4))))}
      />
      <div className="flex justify-between text-[11px] text-ink-3">
        <span>{significant(low, 3)}</span>
        <span>{significant(high, 3)}</span>
      </div>
    </>
  );
}
