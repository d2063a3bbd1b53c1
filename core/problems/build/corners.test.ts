import { describeProblem } from "./describeProblemForTests.ts";

describeProblem("ramp", { scale: 0.4 });
describeProblem("corner", { scale: 0.4 });
