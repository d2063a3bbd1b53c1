/** Something a person asked for that cannot be done, in a sentence they can act on. */
export class UseCaseError extends Error {
  constructor(
    readonly code: "not-found" | "invalid" | "conflict",
    message: string,
    readonly details?: unknown,
  ) {
    super(message);
    this.name = "UseCaseError";
  }
}
