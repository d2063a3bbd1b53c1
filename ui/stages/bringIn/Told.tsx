import { count } from "@/core/formatting/number";
import type { Problem, ReadingView } from "./useReading";

/** How far a file is read, and a way to stop it. */
export function Underway({ reading, stop }: { reading: ReadingView; stop: () => void }) {
  const share = reading.total ? reading.read / reading.total : undefined;
  return (
    <div className="mt-2 flex items-center gap-3 text-[12.5px]" aria-live="polite">
      <progress className="w-52" value={share} max={1} aria-label={`Reading ${reading.name}`} />
      <span>
        {reading.id ? `${count(reading.rows)} rows read` : `sending ${reading.name}`}
        {share === undefined ? "" : `, ${Math.round(share * 100)} %`}
      </span>
      <button type="button" className="btn quiet small" onClick={stop}>
        Stop
      </button>
    </div>
  );
}

/** What stands in the way of a file: where, and what to do. */
export function Problems({ problems }: { problems: readonly Problem[] }) {
  if (!problems.length) return null;
  return (
    <div className="mt-3 border-l-2 border-pointer pl-3" role="alert">
      <h3>Cannot be read as it is; nothing was stored</h3>
      <ul>
        {problems.map((p) => (
          <li key={`${p.file}${p.line}${p.column}${p.sentence}`} className="text-[12.5px]">
            <b className="font-mono font-medium">
              {p.file}, line {p.line}
              {p.column ? `, ${p.column}` : ""}
            </b>
            : {p.sentence}
          </li>
        ))}
      </ul>
    </div>
  );
}
