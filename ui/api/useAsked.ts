"use client";

import { skipToken, type UseQueryResult, useQuery } from "@tanstack/react-query";
import { type Answer, call, type Sending } from "./call";
import type { Operations } from "./operations";

/**
 * The answer of an operation; nothing is asked while there is nothing to send.
 * @param version a word that changes when the answer may have changed
 * @param everyMs time after which it is asked for again, where it changes by itself
 */
export function useAsked<What extends keyof Operations>(
  what: What,
  sending: Sending<What> | undefined,
  version = "",
  everyMs?: number,
): UseQueryResult<Answer<What>, Error> {
  return useQuery({
    queryKey: [what, sending, version],
    queryFn: sending ? ({ signal }) => call(what, sending, signal) : skipToken,
    ...(everyMs === undefined ? {} : { refetchInterval: everyMs }),
  });
}
