/** JSON has no word for some numbers, and would take them for one. */
const written = (_: string, value: unknown) => (typeof value === "number" && !Number.isFinite(value) ? `number ${value}` : value);

/**
 * A pure function that keeps its latest answers.
 * @param make what is dear to work out; the same arguments must always give the same answer
 * @param most answers kept; the one asked for longest ago goes first
 * @returns the same function; arguments are the same when they are written alike as JSON
 */
export function remembered<Args extends readonly unknown[], T>(make: (...args: Args) => T, most: number): (...args: Args) => T {
  const kept = new Map<string, T>();
  return (...args) => {
    const key = JSON.stringify(args, written);
    const value = kept.has(key) ? (kept.get(key) as T) : make(...args);
    kept.delete(key);
    kept.set(key, value);
    if (kept.size > most) kept.delete(kept.keys().next().value as string);
    return value;
  };
}

/** answers kept for each object */
const MOST_OF_ONE = 8;

/**
 * A pure function of an object nobody changes, such as the record of a run, that keeps its latest answers for as long as the object lives.
 * @param make what is dear to work out; besides the object its arguments must be plain data
 */
export function rememberedOf<Of extends object, Args extends readonly unknown[], T>(
  make: (of: Of, ...args: Args) => T,
): (of: Of, ...args: Args) => T {
  const kept = new WeakMap<Of, (...args: Args) => T>();
  return (of, ...args) => {
    const own = kept.get(of) ?? remembered((...given: Args) => make(of, ...given), MOST_OF_ONE);
    kept.set(of, own);
    return own(...args);
  };
}
