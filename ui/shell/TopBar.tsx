import Link from "next/link";
import type { ReactNode } from "react";

/** Plate at the head of every page outside a case. */
export function TopBar({
  programme,
  busy,
  findings,
  children,
}: {
  programme: string;
  busy: { running: number; waiting: number };
  findings: number;
  children?: ReactNode;
}) {
  return (
    <header className="tinplate no-print flex h-16 items-center justify-between px-[18px]">
      <Link href="/" className="flex items-center gap-2.5 text-[15px] font-[680]">
        <svg width="34" height="22" aria-hidden="true">
          <rect x=".5" y=".5" width="33" height="21" rx="2" fill="#EDEEEC" stroke="#6c7577" />
          <path d="M5 21v-9M9 21v-5M13 21v-5M17 21v-9M21 21v-5M25 21v-5M29 21v-9" stroke="#1d2427" />
          <path d="M17 1v7" stroke="#B5412B" strokeWidth="2.4" />
        </svg>
        Tin Ruler
      </Link>
      <Link href="/programme" className="mr-auto ml-2.5 text-[15px] text-head">
        {programme || "Programme"}
      </Link>
      <nav className="flex items-center gap-4 text-[12.5px] text-head" aria-label="Pages">
        <Link href="/">Cases</Link>
        <Link href="/quantities">Quantities</Link>
        <Link href="/versions">Versions</Link>
        <Link href="/library">Library</Link>
        <Link href="/look">Look</Link>
        <Link href="/bench">
          Bench <b className="font-mono font-medium">{busy.running || busy.waiting ? `${busy.running} running, ${busy.waiting} waiting` : "idle"}</b>
        </Link>
        <Link href="/findings">
          Findings <b className="font-mono font-medium">{findings}</b>
        </Link>
        <Link href="/method">Method</Link>
        {children}
      </nav>
    </header>
  );
}
