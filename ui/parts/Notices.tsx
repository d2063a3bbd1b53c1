"use client";

import { Toaster } from "sonner";

export function Notices() {
  return (
    <Toaster
      position="bottom-right"
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
