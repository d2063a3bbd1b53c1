export const SIGN_ROLES = ["prepared", "checked", "approved"] as const;
export type SignRole = (typeof SIGN_ROLES)[number];

/** A signature under an issued report; the report itself never changes. */
export interface SignOff {
  readonly role: SignRole;
  readonly by: string;
  readonly at: string;
}

/** Number of the newest later report that was not withdrawn: it stands in the place of this one. */
export function supersededBy(number: number, all: readonly { readonly number: number; readonly withdrawn: unknown }[]): number | undefined {
  const later = all.filter((r) => r.number > number && !r.withdrawn).map((r) => r.number);
  return later.length ? Math.max(...later) : undefined;
}

/** Why an issued report no longer stands. */
export interface Withdrawal {
  readonly by: string;
  readonly reason: string;
  readonly at: string;
}

/**
 * Why a signature cannot be given; undefined where it can. Roles follow one another, each once; who checks did not prepare.
 * @example
 * signRefusal("approved", "R. T.", []) // "It has to be checked first."
 */
export function signRefusal(role: SignRole, by: string, given: readonly SignOff[]): string | undefined {
  const person = (s: string) => s.toLowerCase().replace(/[^\p{L}\p{N}]/gu, "");
  if (given.some((s) => s.role === role)) return `It is ${role} already, by ${given.find((s) => s.role === role)?.by}`;
  const before = SIGN_ROLES[SIGN_ROLES.indexOf(role) - 1];
  if (before && !given.some((s) => s.role === before)) return `It has to be ${before} first.`;
  const preparer = given.find((s) => s.role === "prepared");
  if (role !== "prepared" && preparer && person(preparer.by) === person(by)) return `${by} prepared it: somebody else has to say that it is ${role}.`;
  return undefined;
}
