/** Tables as codes write them, to be spoilt. */
export const SOUND_TABLES = [
  "iteration,drag (N),mass residual\n1,2.5,0.1\n2,2.4,0.01\n3,2.39,0.001\n",
  "# time heat_flux(W) log10(R_mass)\n0.1 3 -1\n0.2 4 -2\n",
  "it;u;v\r\n;m/s;m/s\r\n1;1,5;2\r\n2;1,25;2\r\n",
  'step\tposition\n1\t(1 2 3)\n2\t(2 3 4)\n"3"\t(4 5 6)\n',
];

/** Signs and pieces that have upset readers. */
export const PIECES = [
  "",
  "\0",
  "\r",
  "\n",
  ",",
  ";",
  "\t",
  '"',
  "(",
  ")",
  "#",
  "1e999",
  "NaN",
  "-",
  "\uFEFF",
  "\ud800",
  "９",
  "=cmd|' /C'!A0",
  "x".repeat(300),
  "(1 2",
];

/** Bytes some of which were changed, or of which the end or the beginning is gone. */
export function spoiltBytes(sound: Uint8Array, random: () => number): Uint8Array {
  const bytes = Uint8Array.from(sound);
  const way = random();
  const at = Math.floor(random() * bytes.length);
  if (way >= 0.6) return way < 0.8 ? bytes.slice(0, at) : bytes.slice(at);
  for (let n = 0; n < 1 + 4 * random(); n++) bytes[Math.floor(random() * bytes.length)] = Math.floor(256 * random());
  return bytes;
}
