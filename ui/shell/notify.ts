/** A notice over the page: what was done, what went wrong, and what may be taken back. */
export interface Notice {
  readonly text: string;
  readonly bad?: boolean;
  readonly durationMs?: number;
  readonly action?: { readonly label: string; readonly onClick: () => void };
}

const EVENT = "tin-ruler-notice";

/** Shows a notice; whoever shows them is fetched with the first. */
export function notify(text: string, more: Omit<Notice, "text"> = {}): void {
  window.dispatchEvent(new CustomEvent<Notice>(EVENT, { detail: { text, ...more } }));
}

/** What went wrong, in its own words. */
export const sentenceOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

export const notifyError = (error: unknown): void => notify(sentenceOf(error), { bad: true });

/** @returns what ends the listening */
export function onNotice(hear: (notice: Notice) => void): () => void {
  const listener = (e: Event) => hear((e as CustomEvent<Notice>).detail);
  window.addEventListener(EVENT, listener);
  return () => window.removeEventListener(EVENT, listener);
}
