import type { QuantityKind } from "../units/quantityKind.ts";
import type { Take } from "./take.ts";

/** A quantity a template delivers. */
export interface QuantitySpec {
  readonly key: string;
  readonly name: string;
  readonly symbol: string;
  readonly unit: string;
  /** largest error accepted by preset, a fraction of the quantity's scale */
  readonly limit: number;
  /** differences of fields at walls converge last */
  readonly derivative?: boolean;
  /** why it does not converge with the mesh, where its template knows that */
  readonly divergent?: string;
  /** it is asked of this very extent of the domain: another extent is another question */
  readonly ofDomain?: boolean;
  /** what it is, where a rule asks; nothing special where absent */
  readonly kind?: QuantityKind;
  /** statistic of its record that stands for its value, where one was chosen */
  readonly take?: Take;
}
