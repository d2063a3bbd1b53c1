type Answers = Readonly<Record<string, (ask: never) => unknown>>;

interface Asked {
  readonly id: number;
  readonly kind: string;
  readonly ask: unknown;
}

/**
 * Answers the questions an asker puts to this worker, one after the other, each by its kind; what goes wrong is answered in its words.
 * @param prepare what a question becomes before it is answered
 */
export function answering(answers: Answers, prepare: (ask: unknown) => unknown = (ask) => ask): void {
  let before: Promise<unknown> = Promise.resolve();
  const answer = async ({ id, kind, ask }: Asked): Promise<void> => {
    try {
      self.postMessage({ id, ok: true, answer: await answers[kind](prepare(ask) as never) });
    } catch (error) {
      self.postMessage({ id, ok: false, sentence: error instanceof Error ? error.message : String(error) });
    }
  };
  // One after the other, also where an answer has to wait for something that is fetched.
  self.onmessage = ({ data }: MessageEvent<Asked>) => {
    before = before.then(() => answer(data));
  };
}
