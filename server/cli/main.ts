import { ASSESS_USE, assessCommand } from "./assess.ts";

const [command, ...args] = process.argv.slice(2);
const voice = { out: (line: string) => console.log(line), err: (line: string) => console.error(line) };

if (command === "assess") process.exitCode = await assessCommand(args, voice);
else {
  console.error(ASSESS_USE);
  process.exitCode = command === undefined || command === "help" || command === "--help" ? 0 : 2;
}
