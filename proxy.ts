import { type NextRequest, NextResponse } from "next/server";
import { hostAllowed } from "./server/http/guard";

/** Pages and data are given to this machine's own names only, so that no web page elsewhere can reach them through a borrowed name. */
export function proxy(request: NextRequest) {
  if (!hostAllowed(request.headers.get("host")))
    return new NextResponse("This address is not served. Open http://127.0.0.1 with the port that was printed at the start.", { status: 421 });
  const answer = NextResponse.next();
  answer.headers.set("x-content-type-options", "nosniff");
  answer.headers.set("x-frame-options", "DENY");
  answer.headers.set("referrer-policy", "same-origin");
  return answer;
}

// Whatever passes here is held in memory up to a limit and then cut off: uploads and what nodes send go past it and check their host themselves.
export const config = { matcher: ["/((?!_next/static|favicon.svg|api/uploads|api/node).*)"] };
