"use client";

import { useEffect, useRef } from "react";
import { Toaster, toast } from "sonner";
import type { Notice } from "./notify";

/** Shows each notice once, in the order they came. */
export function ShownNotices({ notices }: { notices: readonly Notice[] }) {
  const shown = useRef(0);
  useEffect(() => {
    for (const { text, bad, durationMs, action } of notices.slice(shown.current)) {
      (bad ? toast.error : toast)(text, { duration: durationMs, action });
    }
    shown.current = notices.length;
  }, [notices]);
  return (
    <Toaster
      // Over the plate at the head of every page, where no field stands.
      position="top-center"
      offset={6}
      toastOptions={{
        style: {
          fontFamily: "var(--font-sans)",
          borderRadius: 4,
          border: "1px solid var(--color-tin)",
          boxShadow: "none",
          background: "var(--color-sheet)",
          color: "var(--color-ink)",
        },
      }}
    />
  );
}
