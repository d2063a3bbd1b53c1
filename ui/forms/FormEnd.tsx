"use client";

import type { ReactNode } from "react";

/** The two ways out of a form: leave it as it is, or send it. */
export function FormEnd({ leave, off, children }: { leave: () => void; off: boolean; children: ReactNode }) {
  return (
    <>
      <button type="button" className="btn quiet" onClick={leave}>
        Leave it
      </button>
      <button type="submit" className="btn" disabled={off}>
        {children}
      </button>
    </>
  );
}
