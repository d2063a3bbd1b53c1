import { significant } from "@/core/formatting/number";

/** A place in space, three figures an axis. */
export const placeText = (v: readonly number[]): string => v.map((x) => significant(x, 3)).join(", ");
