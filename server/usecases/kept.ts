/** Keeps what was worked out last, by a key that names all it was worked out from; the longest unused goes first. */
export class Kept<T> {
  private readonly entries = new Map<string, { value: T; size: number }>();
  private size = 0;

  /** @param most sum of sizes that is kept; the newest entry stays whatever its size */
  constructor(
    private readonly most: number,
    private readonly sizeOf: (value: T) => number,
  ) {}

  async get(key: string, make: () => Promise<T>): Promise<T> {
    const found = this.entries.get(key);
    if (found) {
      this.entries.delete(key);
      this.entries.set(key, found);
      return found.value;
    }
    const value = await make();
    const size = this.sizeOf(value);
    this.entries.set(key, { value, size });
    this.size += size;
    for (const [old, entry] of this.entries) {
      if (this.size <= this.most || this.entries.size === 1) break;
      this.entries.delete(old);
      this.size -= entry.size;
    }
    return value;
  }
}
