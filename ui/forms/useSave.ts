"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { type Answer, call, Refused, type Sending } from "../api/call";
import type { Operations } from "../api/operations";
import { notify, notifyError } from "../shell/notify";

/** Sends a change, tells what came of it, and reads the page anew. `told` hears what each entry is told, nothing when all is well. */
export function useSave(told?: (mistakes: Readonly<Record<string, string>>) => void) {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const [mistakes, setMistakes] = useState<Record<string, string>>({});
  const tell = (found: Record<string, string>) => {
    setMistakes(found);
    told?.(found);
  };
  const save = async <What extends keyof Operations>(what: What, sending: Sending<What>, said?: string): Promise<Answer<What> | undefined> => {
    setBusy(true);
    try {
      const answer = await call(what, sending);
      tell({});
      if (said) notify(said);
      router.refresh();
      return answer;
    } catch (error) {
      if (error instanceof Refused) tell(error.details);
      notifyError(error);
      return undefined;
    } finally {
      setBusy(false);
    }
  };
  return { save, busy, mistakes };
}
