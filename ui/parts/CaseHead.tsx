import Link from "next/link";
import type { ReactNode } from "react";
import { layoutRule } from "@/core/drawing/ruleDrawing";
import { percent, quantityText } from "@/core/formatting/number";
import type { QuantityRule } from "@/core/sources/rule";
import type { CaseView } from "../view";

const X0 = 196;
const X1 = 1256;
const BASE = 86;

/** Head of a case: where one is, and every error of the quantity on one rule. */
export function CaseHead({ view, children }: { view: CaseView; children: ReactNode }) {
  const rule = view.assessment.rules.find((r) => r.quantityKey === view.quantityKey);
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  return (
    <header className="tinplate relative h-[120px] shrink-0 overflow-hidden">
      <div className="absolute top-2 left-[18px] flex items-baseline gap-2.5">
        <Link href="/" className="text-head">
          Cases
        </Link>
        <span className="text-head">/</span>
        <b className="font-[640]">{view.title}</b>
        {q ? (
          <>
            <span className="text-head">/</span>
            <span className="border-b-[1.5px] border-pointer font-[640]" data-testid="quantity">
              {q.name}
            </span>
            <span className="font-mono text-[12px] text-head">{rule?.value != null ? quantityText(rule.value, q.unit, 5) : ""}</span>
          </>
        ) : null}
      </div>
      <div className="no-print absolute top-1.5 right-4 flex items-center gap-3">{children}</div>
      {rule ? <Rule rule={rule} id={view.id} quantityKey={view.quantityKey} /> : null}
    </header>
  );
}

function Rule({ rule, id, quantityKey }: { rule: QuantityRule; id: string; quantityKey: string }) {
  const l = layoutRule(rule, X0, X1);
  const to = (stage: string) => `/cases/${id}/${stage}?q=${encodeURIComponent(quantityKey)}`;
  const missing = rule.sources.filter((s) => s.relative == null);
  return (
    <svg width="1280" height="88" className="absolute top-8 left-0" aria-label="Error sources on a logarithmic scale">
      {l.band ? (
        <g>
          <rect x={X0} y="69" width={Math.max(0, l.band.x - X0)} height="4" fill="#27506B" opacity="0.28">
            <title>{`${l.band.text}: differences inside are within the noise`}</title>
          </rect>
        </g>
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
              x={t.x > X1 - 20 ? t.x - 4 : t.x + 4}
              y={BASE - 5}
              fontSize="10.5"
              fill="#2b3335"
              fontFamily="var(--font-mono)"
              textAnchor={t.x > X1 - 20 ? "end" : "start"}
            >
              {t.text}
            </text>
          ) : null}
        </g>
      ))}
      {l.pins.map((p) => {
        const y = 60 - 12 * p.lane;
        return (
          <a key={p.key} href={to(p.stage)} aria-label={`${p.name}, ${percent(p.relative)}: go to its evidence`}>
            <title>{`${p.name}: ${percent(p.relative)}`}</title>
            <path d={`M${p.x} ${y - 8}V63`} stroke={p.color} />
            <path d={`M${p.x} 69l-4-7h8z`} fill={p.color} />
            <text x={p.textX} y={y} fontSize="11.5" fill="#1d2427" textAnchor={p.anchor}>
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
      <g>
        <text x="18" y="34" fontSize="11" fill="#384144">
          {missing.length ? "not measured" : "every source measured"}
        </text>
        {missing.slice(0, 4).map((s, i) => (
          <a key={s.key} href={to(s.stage)} aria-label={`${s.name} is not measured: ${s.note}`}>
            <title>{`${s.name}: ${s.note}`}</title>
            <circle cx={23 + (i % 2) * 88} cy={50 + Math.floor(i / 2) * 17} r="4" fill="none" stroke="#384144" strokeDasharray="2 1.5" />
            <text x={31 + (i % 2) * 88} y={54 + Math.floor(i / 2) * 17} fontSize="11.5" fill="#1d2427">
              {s.name}
            </text>
          </a>
        ))}
        {missing.length > 4 ? <text x="18" y="84" fontSize="10.5" fill="#384144">{`and ${missing.length - 4} more`}</text> : null}
      </g>
    </svg>
  );
}
