/** What remembers the scheme a person chose; without it the system says. */
export const SCHEME_COOKIE = "scheme";

export const SCHEMES = ["system", "light", "dark"] as const;
export type Scheme = (typeof SCHEMES)[number];

/** The scheme after this one, in a circle. */
export const schemeAfter = (scheme: Scheme): Scheme => SCHEMES[(SCHEMES.indexOf(scheme) + 1) % SCHEMES.length];

/** What the page bears: nothing where the system says. */
export const schemeOf = (said: string | undefined): Scheme => (said === "light" || said === "dark" ? said : "system");

const YEAR_S = 31_536_000;

/** A cookie that remembers the choice, or forgets it where the system says. */
export const schemeCookie = (scheme: Scheme): string =>
  `${SCHEME_COOKIE}=${scheme === "system" ? "" : scheme}; path=/; max-age=${scheme === "system" ? 0 : YEAR_S}; samesite=lax`;
