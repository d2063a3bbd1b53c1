/**
 * A pure function that keeps its latest answers.
 * @param make what is dear to work out; the same arguments must always give the same answer
 * @param most answers kept; the one asked for longest ago goes first
 * @returns the same function; arguments are the same when they are written alike as JSON
 */
export function remembered<Args extends readonly unknown[], T>(make: (...args: Args) => T, most: number): (...args: Args) => T {
  const kept = new Map<string, T>();
  return (...args) => {
    const key = JSON.stringify(args);
    const value = kept.has(key) ? (kept.get(key) as T) : make(...args);
    kept.delete(key);
    kept.set(key, value);
    if (kept.size > most) kept.delete(kept.keys().next().value as string);
    return value;
  };
}
