"use client";

import { Toaster } from "sonner";

export function Notices() {
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
