import { type DependencyList, useEffect, useState } from "react";

export interface Answer<T> {
  readonly value?: T;
  readonly mistake?: string;
  readonly busy: boolean;
}

/**
 * The answer to a question that is asked anew whenever what it rests on changes; answers that come too late are dropped. The last one stays while
 * the next is on its way, unless nothing is asked any more.
 */
export function useAnswer<T>(question: (() => Promise<T>) | undefined, restsOn: DependencyList): Answer<T> {
  const [found, setFound] = useState<Answer<T>>({ busy: question !== undefined });
  const put = () => {
    let late = false;
    if (!question) {
      setFound({ busy: false });
      return;
    }
    setFound((old) => ({ ...old, busy: true }));
    question().then(
      (value) => !late && setFound({ value, busy: false }),
      (error: unknown) => !late && setFound({ mistake: error instanceof Error ? error.message : String(error), busy: false }),
    );
    return () => {
      late = true;
    };
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the question is a new function at every draw; what it rests on is said by the caller
  useEffect(put, restsOn);
  return found;
}
