"use client";

import { useEffect, useRef, useState } from "react";
import { call } from "../../api/call";
import type { Mapped } from "./Mapping";
import type { Problem, ReadingView } from "./useReading";

const NO_MAPPING: Mapped = { roles: [], units: [] };
/** a person who is still choosing is let be for so long */
const CHECK_AFTER_MS = 300;

/** Units as they are sent: null where none is given. */
export const unitsOf = (m: Mapped) => m.units.map((u) => u.trim() || null);

/** What the columns of a file are said to be. A file just read brings its mapping; a person's changes are checked by the server. */
export function useMapping(caseId: string, reading: ReadingView | undefined, said: (sentence: string) => void) {
  const [mapped, setMapped] = useState<Mapped>(NO_MAPPING);
  const [checked, setChecked] = useState<{ problems: readonly Problem[]; notes: readonly string[] }>({ problems: [], notes: [] });
  const preview = reading?.preview;
  const readingId = reading?.id;
  useEffect(() => {
    if (!preview) return setMapped(NO_MAPPING);
    setMapped({ roles: preview.roles, units: preview.header.map((_, i) => preview.units[i] ?? "") });
    setChecked({ problems: [], notes: preview.notes });
  }, [preview]);
  const first = useRef<Mapped>(undefined);
  useEffect(() => {
    if (!preview || mapped.roles.length !== preview.header.length || !readingId) return;
    if (first.current === mapped) return;
    first.current = mapped;
    const later = setTimeout(() => {
      const input = { roles: mapped.roles, units: unitsOf(mapped) };
      call("POST /cases/{id}/readings/{reading}/check", { at: { id: caseId, reading: readingId }, input }).then(setChecked, (error) =>
        said(String(error.message)),
      );
    }, CHECK_AFTER_MS);
    return () => clearTimeout(later);
  }, [mapped, preview, readingId, caseId, said]);
  return { mapped, setMapped, checked };
}
