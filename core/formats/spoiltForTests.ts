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
