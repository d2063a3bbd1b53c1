import type { State } from "@/core/remarks/remark";

export const STATE_WORDS: Readonly<Record<State, string>> = {
  holds: "holds",
  remark: "holds with a remark",
  fails: "fails",
  stale: "evidence is older than its inputs",
  none: "not measured",
};

const SHAPES: Readonly<Record<State, React.ReactNode>> = {
  holds: <rect x="1" y="1" width="11" height="11" fill="#2F7668" />,
  remark: (
    <>
      <rect x="1" y="1" width="11" height="11" fill="none" stroke="#A87A1F" strokeWidth="1.6" />
      <path d="M1 12h11V1z" fill="#A87A1F" />
    </>
  ),
  fails: (
    <>
      <rect x="1" y="1" width="11" height="11" fill="none" stroke="#B5412B" strokeWidth="1.8" />
      <path d="M1.5 11.5l10-10" stroke="#B5412B" strokeWidth="1.8" />
    </>
  ),
  stale: (
    <>
      <rect x="1" y="1" width="11" height="11" fill="none" stroke="#4F5A5E" strokeWidth="1.3" strokeDasharray="2 2" />
      <path d="M6.5 3.5v3.2h2.6" stroke="#4F5A5E" fill="none" strokeWidth="1.2" />
    </>
  ),
  none: <path d="M2 6.5h9" stroke="#7A8387" strokeWidth="1.6" />,
};

/** A state as a shape; its word is there for whoever cannot see it. */
export function StateMark({ state, plain = false }: { state: State; plain?: boolean }) {
  return (
    <svg
      width="13"
      height="13"
      className="inline-block shrink-0 align-[-2px]"
      role="img"
      aria-hidden={plain || undefined}
      aria-label={plain ? undefined : STATE_WORDS[state]}
    >
      {plain ? null : <title>{STATE_WORDS[state]}</title>}
      {SHAPES[state]}
    </svg>
  );
}
