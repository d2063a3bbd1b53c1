const OWN = /^(127\.0\.0\.1|localhost)(:\d{1,5})?$/;

export function hostAllowed(host: string | null): boolean {
  return host !== null && OWN.test(host);
}

/** Whatever changes data must come from a page of this very address. */
export function originAllowed(origin: string | null, host: string | null): boolean {
  return origin !== null && hostAllowed(host) && origin === `http://${host}`;
}
