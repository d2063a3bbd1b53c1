/** Keeps what was worked out last, by a key that names all it was worked out from; the longest unused goes first. */
export class Kept<T> {
  private readonly entries = new Map<string, { value: T; size: number }>();
  private size = 0;

  /** @param most sum of sizes that is kept; the newest entry stays whatever its size */
  constructor(
    private readonly most: number,
    private readonly sizeOf: (value: T) => number = () => 1,
  ) {}

  /** What is kept, and is now the newest. */
  find(key: string): T | undefined {
    const found = this.entries.get(key);
    if (!found) return undefined;
    this.entries.delete(key);
    this.entries.set(key, found);
    return found.value;
  }

  keep(key: string, value: T): void {
    const before = this.entries.get(key);
    this.entries.delete(key);
    const size = this.sizeOf(value);
    this.entries.set(key, { value, size });
    this.size += size - (before?.size ?? 0);
    for (const [old, entry] of this.entries) {
      if (this.size <= this.most || this.entries.size === 1) break;
      this.entries.delete(old);
      this.size -= entry.size;
    }
  }

  clear(): void {
    this.entries.clear();
    this.size = 0;
  }

  async get(key: string, make: () => Promise<T>): Promise<T> {
    const found = this.find(key);
    if (found !== undefined) return found;
    const value = await make();
    this.keep(key, value);
    return value;
  }
}
