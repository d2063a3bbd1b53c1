"use client";

import { startTransition, useEffect, useState } from "react";

/** The first rows of a long table come with the page; the rest joins them once the page is alive. */
export function useRest<Row>(rows: readonly Row[], first: number): readonly Row[] {
  const [whole, setWhole] = useState(false);
  useEffect(() => startTransition(() => setWhole(true)), []);
  return whole || rows.length <= first ? rows : rows.slice(0, first);
}
