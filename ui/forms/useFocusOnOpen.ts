"use client";

import { type RefObject, useEffect, useRef } from "react";

/** Focus goes to the first entry of what was just opened. */
export function useFocusOnOpen<T extends HTMLElement>(): RefObject<T | null> {
  const own = useRef<T>(null);
  useEffect(() => own.current?.querySelector<HTMLElement>("input, select, textarea, button")?.focus(), []);
  return own;
}
