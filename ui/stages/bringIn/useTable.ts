"use client";

import { useState } from "react";
import { call, Refused } from "../../api/call";
import type { QuantitiesPreview } from "./QuantityRows";
import type { Problem } from "./useReading";

/** A table of results a person has chosen: what its rows seem to be, and what they are said to be. */
export function useTable(caseId: string, said: (sentence: string) => void) {
  const [file, setFile] = useState<{ name: string; text: string }>();
  const [found, setFound] = useState<{ preview?: QuantitiesPreview; problems: readonly Problem[] }>({ problems: [] });
  const [roles, setRoles] = useState<readonly string[]>([]);
  const [units, setUnits] = useState<readonly string[]>([]);
  const choose = async (chosen: File | undefined) => {
    said("");
    setFound({ problems: [] });
    const read = chosen && { name: chosen.name, text: await chosen.text() };
    setFile(read);
    if (!read) return;
    try {
      const answer = await call("POST /cases/{id}/preview", { at: { id: caseId }, input: { history: null, quantities: read } });
      setFound({ preview: answer.quantities, problems: answer.problems });
      setRoles(answer.quantities?.roles ?? []);
      setUnits(answer.quantities?.rows.map((r) => r.unit ?? "") ?? []);
    } catch (error) {
      said(error instanceof Refused ? error.message : String(error));
    }
  };
  return {
    file,
    ...found,
    roles,
    change: setRoles,
    units,
    changeUnits: setUnits,
    choose,
    /** some row is a flow through a boundary */
    flows: roles.some((r) => r.startsWith("boundary-")),
    /** units as they are sent: null where none is given */
    sentUnits: units.map((u) => u.trim() || null),
  };
}
