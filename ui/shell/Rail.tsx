import Link from "next/link";
import type { StageLine } from "@/core/assessment/results/stage";
import { StateMark } from "./StateMark";

const STEP = 61;

/** Rule down the left edge: a major tick a stage, with a line of its state. */
export function Rail({ stages, current, id, quantityKey }: { stages: readonly StageLine[]; current: string; id: string; quantityKey: string }) {
  const end = 24 + STEP * stages.length;
  return (
    <nav
      className="no-print relative w-[172px] shrink-0 overflow-x-hidden overflow-y-auto max-[1179px]:w-[134px] border-r border-plate-edge bg-rail"
      aria-label="Stages"
    >
      <svg width="30" height={end} className="absolute top-0 left-0" aria-hidden="true">
        <path d={`M8 14V${end - 30}`} stroke="#8b9394" />
        {stages.map((s, i) => {
          const y = 26 + i * STEP;
          const on = s.stage === current;
          return (
            <g key={s.stage}>
              <path d={`M8 ${y}H26`} stroke={on ? "#B5412B" : "#2b3335"} strokeWidth={on ? 2.4 : 1.2} />
              {i + 1 < stages.length
                ? [1, 2, 3, 4, 5, 6, 7].map((k) => (
                    <path key={k} d={`M8 ${y + (k * STEP) / 8}H${k === 4 ? 18 : 14}`} stroke="#8b9394" strokeWidth="0.9" />
                  ))
                : null}
            </g>
          );
        })}
      </svg>
      <ol>
        {stages.map((s, i) => (
          <li key={s.stage} className="absolute right-1.5 left-[34px]" style={{ top: 16 + i * STEP }}>
            <Link
              href={`/cases/${id}/${s.stage}?q=${encodeURIComponent(quantityKey)}`}
              aria-current={s.stage === current ? "page" : undefined}
              className={s.stage === current ? "block font-[660] text-ink" : "block text-head"}
            >
              <span className="flex items-center justify-between">
                {s.title} <StateMark state={s.state} />
              </span>
              <small className="block text-[11px] font-normal text-ink-2 max-[1179px]:hidden" style={{ fontVariationSettings: '"wdth" 88' }}>
                {s.line}
              </small>
            </Link>
          </li>
        ))}
      </ol>
    </nav>
  );
}
