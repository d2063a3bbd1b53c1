import Link from "next/link";
import type { ReactNode } from "react";
import { quantityText } from "@/core/formatting/number";
import type { CaseView } from "../view";
import { HeadRule } from "./HeadRule";

/** Head of a case: where one is, and every error of the quantity on one rule. */
export function CaseHead({ view, children }: { view: Omit<CaseView, "runs">; children: ReactNode }) {
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
      {rule ? <HeadRule rule={rule} id={view.id} quantityKey={view.quantityKey} /> : null}
    </header>
  );
}
