import type { ReactNode } from "react";

/** Title of a stage as a question, with its buttons on the right. */
export function StageHeader({ title, question, children }: { title: string; question: string; children?: ReactNode }) {
  return (
    <div className="mb-3 flex items-start justify-between gap-4">
      <div>
        <h1>{title}</h1>
        <p className="text-[12px] text-ink-3">{question}</p>
      </div>
      <div className="flex flex-wrap justify-end gap-2">{children}</div>
    </div>
  );
}

/** Shown where a stage has nothing yet: which step fills it. */
export function Empty({ children }: { children: ReactNode }) {
  return <div className="mt-6 max-w-[52ch] border-l-2 border-tin py-1 pl-4 text-ink-2">{children}</div>;
}
