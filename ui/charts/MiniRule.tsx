import type { SmallRule } from "@/core/assessment/results/boardRow";
import { BOARD_DECADES, ruleX } from "@/core/drawing/ruleDrawing";
import { powerOfTen } from "@/core/formatting/number";

const W = 312;
const COLORS = { numerical: "#27506B", input: "#A87A1F", machine: "#4F5A5E" } as const;

/** The rule of a quantity, small, as a row's summary. */
export function MiniRule({ rule }: { rule: SmallRule | undefined }) {
  const at = (v: number) => ruleX(v, BOARD_DECADES, 6, W - 6);
  const ticks = Array.from({ length: 7 }, (_, k) => k - 6);
  return (
    <svg
      width={W}
      height="27"
      role="img"
      aria-label={
        rule
          ? `error sources: ${
              rule.sources
                .filter((s) => s.relative != null)
                .map((s) => s.name)
                .join(", ") || "none measured"
            }`
          : "no rule"
      }
    >
      {ticks.map((d) => (
        <g key={d}>
          <path d={`M${at(10 ** d)} 26v-7`} stroke="#4F5A5E" />
          {d < 0
            ? [2, 3, 4, 5, 6, 7, 8, 9].map((m) => (
                <path key={m} d={`M${at(m * 10 ** d)} 26v-${m === 5 ? 4.5 : 3}`} stroke="#a5acad" strokeWidth="0.8" />
              ))
            : null}
        </g>
      ))}
      <path d={`M0 26.5h${W}`} stroke="#4F5A5E" />
      {rule?.band != null ? <rect x="6" y="18" width={Math.max(0, at(rule.band) - 6)} height="3" fill="#27506B" opacity="0.22" /> : null}
      {rule?.sources.map((s) =>
        s.relative != null && s.relative > 0 ? (
          <path
            key={s.key}
            d={`M${at(s.relative)} 18l-3.4-6h6.8z`}
            fill={s.settled ? "none" : COLORS[s.group]}
            stroke={s.settled ? COLORS[s.group] : undefined}
          />
        ) : null,
      )}
      {rule?.difference != null ? <path d={`M${at(Math.abs(rule.difference))} 26l-3-7V4h6v15z`} fill="#B5412B" /> : null}
    </svg>
  );
}

const NAMES: Readonly<Record<number, string>> = { [-6]: "1 ppm", [-4]: "0.01 %", [-3]: "0.1 %", [-2]: "1 %", [-1]: "10 %", 0: "100 %" };

/** The axis of the small rules, for the head of their column. */
function MiniAxis() {
  const at = (v: number) => ruleX(v, BOARD_DECADES, 6, W - 6);
  return (
    <svg width={W} height="16" role="img" aria-label="Logarithmic scale from one in a million to 100 percent">
      {Array.from({ length: 7 }, (_, k) => k - 6).map((d) => (
        <g key={d}>
          <path d={`M${at(10 ** d)} 16v-3`} stroke="#4F5A5E" />
          <text
            x={d === 0 ? W : Math.max(d === -6 ? 0 : 12, at(10 ** d))}
            y="11"
            fontSize="11"
            fill="#4a5558"
            fontFamily="var(--font-mono)"
            textAnchor={d === 0 ? "end" : d === -6 ? "start" : "middle"}
          >
            {d === -5 ? powerOfTen(-5) : NAMES[d]}
          </text>
        </g>
      ))}
    </svg>
  );
}

/** Head of a column of small rules. */
export const MiniRuleHead = () => (
  <>
    Error sources
    <span className="block">
      <MiniAxis />
    </span>
  </>
);
