import type { FaceMesh } from "@/core/mesh/faceMesh";
import type { DerivedField } from "@/core/monitors/derived";
import { planeFormula } from "@/core/monitors/planeFormula";
import { answering } from "../engine/answering";

export interface FormulaAsk {
  readonly mesh: FaceMesh;
  readonly fields: readonly DerivedField[];
  readonly text: string;
}

// On its own, since formulas bring a package along that nothing else of fields needs.
answering({ formula: ({ mesh, fields, text }: FormulaAsk) => planeFormula(mesh, fields, text) });
