import { randomBytes } from "node:crypto";
import { type NextRequest, NextResponse } from "next/server";
import { hostAllowed } from "./server/http/guard";

/** Scripts come from here alone, or carry this answer's nonce; compiled loops run in workers from here. Styles of charts stand in attributes. */
const contentPolicy = (nonce: string): string =>
  [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "worker-src 'self' blob:",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");

/** Pages and data are given to this machine's own names only, so that no web page elsewhere can reach them through a borrowed name. */
export function proxy(request: NextRequest) {
  if (!hostAllowed(request.headers.get("host")))
    return new NextResponse("This address is not served. Open http://127.0.0.1 with the port that was printed at the start.", { status: 421 });
  const nonce = randomBytes(16).toString("base64");
  const policy = contentPolicy(nonce);
  // The pages' own inline scripts are given the nonce where the request carries it.
  const headers = new Headers(request.headers);
  headers.set("content-security-policy", policy);
  const answer = NextResponse.next({ request: { headers } });
  answer.headers.set("content-security-policy", policy);
  answer.headers.set("x-content-type-options", "nosniff");
  answer.headers.set("x-frame-options", "DENY");
  answer.headers.set("referrer-policy", "same-origin");
  return answer;
}

// Whatever passes here is held in memory up to a limit and then cut off: uploads and what nodes send go past it and check their host themselves.
export const config = { matcher: ["/((?!_next/static|favicon.svg|api/uploads|api/node).*)"] };
