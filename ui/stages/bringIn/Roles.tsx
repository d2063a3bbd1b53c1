import { sentenceCase } from "@/core/formatting/number";
import type { Mapped } from "./family";

/** What every column or row is, by its name, with its unit. */
export function Roles(p: {
  title: string;
  entries: Readonly<Record<string, Mapped>>;
  change: (next: Record<string, Mapped>) => void;
  choices: readonly (readonly [string, string])[];
}) {
  const names = Object.keys(p.entries);
  if (!names.length) return null;
  const set = (name: string, change: Partial<Mapped>) => p.change({ ...p.entries, [name]: { ...p.entries[name], ...change } });
  return (
    <>
      <h3 className="mt-3">{p.title}</h3>
      <div className="mt-1 grid max-w-[900px] grid-cols-2 gap-x-6 gap-y-1">
        {names.map((name) => (
          <div key={name} className="grid grid-cols-[1.2fr_1.4fr_0.7fr] items-center gap-2 text-[12.5px]">
            <span className="truncate" title={name}>
              {name}
            </span>
            <select
              aria-label={`Role of ${name}`}
              className="field words"
              value={p.entries[name].role}
              onChange={(e) => set(name, { role: e.target.value })}
            >
              {p.choices.map(([v, words]) => (
                <option key={v} value={v}>
                  {sentenceCase(words)}
                </option>
              ))}
            </select>
            <input
              aria-label={`Unit of ${name}`}
              className="field"
              placeholder="unit"
              disabled={!/^(time|boundary-|quantity:)/.test(p.entries[name].role)}
              value={p.entries[name].unit}
              onChange={(e) => set(name, { unit: e.target.value })}
            />
          </div>
        ))}
      </div>
    </>
  );
}
