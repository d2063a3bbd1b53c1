/** A name as a formula may have it: letters, digits and underscores, beginning with a letter. */
export function symbolOf(name: string): string {
  const plain = name
    .replace(/[,([].*$/, "")
    .trim()
    .replace(/[^A-Za-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "");
  return /^[A-Za-z]/.test(plain) ? plain : `f_${plain}`;
}

/** Symbols of names, each of them another one. */
export function symbolsOf(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const own = symbolOf(name);
    let symbol = own;
    for (let k = 2; taken.has(symbol); k++) symbol = `${own}_${k}`;
    taken.add(symbol);
    return symbol;
  });
}
