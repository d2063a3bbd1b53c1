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

  /** By its name: the server's start and its routes are bundled apart, and each has a class of its own. */
  static override [Symbol.hasInstance](error: unknown): boolean {
    return error instanceof Error && error.name === "UseCaseError";
  }
}
