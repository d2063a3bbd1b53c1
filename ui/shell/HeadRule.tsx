"use client";

import { useEffect, useRef, useState } from "react";
import { layoutRule } from "@/core/drawing/ruleDrawing";
import { percent } from "@/core/formatting/number";
import type { ErrorBudget } from "@/core/method/budget/errorBudget";

const X0 = 196;
const RIGHT = 24;
const BASE = 86;
/** until the page has measured itself */
const FIRST_WIDTH = 1280;
const INK = "#1d2427";

/** The rule across the whole head of a case: pins lead to their evidence, what is open stands in the tray at its left end. */
export function HeadRule({ rule, id, quantityKey }: { rule: ErrorBudget; id: string; quantityKey: string }) {
  const own = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(FIRST_WIDTH);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(Math.round(entry.contentRect.width)));
    if (own.current) watch.observe(own.current);
    return () => watch.disconnect();
  }, []);
  const l = layoutRule(rule, X0, width - RIGHT);
  const to = (stage: string) => `/cases/${id}/${stage}?q=${encodeURIComponent(quantityKey)}`;
  return (
    <div ref={own} className="absolute inset-x-0 top-8">
      <svg width={width} height="88" aria-label="Error sources on a logarithmic scale">
        {l.band ? (
          <rect x={X0} y="69" width={Math.max(0, l.band.x - X0)} height="4" fill="#27506B" opacity="0.28">
            <title>{`${l.band.text}: differences inside are within the noise`}</title>
          </rect>
        ) : null}
        {l.ticks.map((t) => (
          <g key={t.x}>
            <path
              d={`M${t.x} ${BASE - (t.major ? 16 : t.half ? 10 : 6)}V${BASE}`}
              stroke={t.major ? "#2b3335" : "#5d676a"}
              strokeWidth={t.major ? 1.1 : 0.8}
            />
            {t.text ? (
              <text
                x={t.anchor === "end" ? t.x - 4 : t.x + 4}
                y={BASE - 5}
                fontSize="11"
                fill="#2b3335"
                fontFamily="var(--font-mono)"
                textAnchor={t.anchor}
              >
                {t.text}
              </text>
            ) : null}
          </g>
        ))}
        {l.pins.map((p) => {
          const y = 60 - 12 * p.lane;
          return (
            <a key={p.key} href={to(p.stage)} aria-label={`${p.name}, ${percent(p.relative)}${p.byHand ? ", by hand" : ""}: go to its evidence`}>
              <title>{`${p.name}: ${percent(p.relative)}${p.byHand ? ", by hand" : ""}`}</title>
              <path d={`M${p.x} ${y - 8}V63`} stroke={p.color} />
              <path d={`M${p.x} 69l-4-7h8z`} fill={p.byHand ? "none" : p.color} stroke={p.color} />
              <text x={p.textX} y={y} fontSize="11.5" fill={INK} stroke="#d3d6d5" strokeWidth="2.5" paintOrder="stroke" textAnchor={p.anchor}>
                {p.label}
              </text>
            </a>
          );
        })}
        {l.pointer ? (
          <a href={to("comparison")} aria-label={`${l.pointer.text}: go to the comparison`}>
            <path d={`M${l.pointer.x} ${BASE}l-5-11v-54h10v54z`} fill="#B5412B" />
            <text x={l.pointer.textX} y="11" fontSize="12" fontWeight="680" fill="#8f2f1c" textAnchor={l.pointer.anchor}>
              {l.pointer.text}
            </text>
          </a>
        ) : null}
        <Tray rule={rule} to={to} />
      </svg>
    </div>
  );
}

/** Sources whose size nobody knows yet. */
function Tray({ rule, to }: { rule: ErrorBudget; to: (stage: string) => string }) {
  const open = rule.sources.filter((s) => s.relative == null);
  const byHand = rule.sources.filter((s) => s.settled).length;
  return (
    <g>
      <text x="18" y="34" fontSize="11" fill="#384144">
        {open.length ? "open" : byHand ? `every source settled, ${byHand} by hand` : "every source measured"}
      </text>
      {open.slice(0, 4).map((s, i) => (
        <a key={s.key} href={to("verdict")} aria-label={`${s.name} is open: ${s.note}`}>
          <title>{`${s.name}: ${s.note}`}</title>
          <circle cx={23 + (i % 2) * 88} cy={50 + Math.floor(i / 2) * 17} r="4" fill="none" stroke="#384144" strokeDasharray="2 1.5" />
          <text x={31 + (i % 2) * 88} y={54 + Math.floor(i / 2) * 17} fontSize="11.5" fill={INK}>
            {s.name}
          </text>
        </a>
      ))}
      {open.length > 4 ? (
        <text x="18" y="85" fontSize="11" fill="#384144">
          and {open.length - 4} more
        </text>
      ) : null}
    </g>
  );
}
