import { describeProblem } from "./describeProblemForTests.ts";

describeProblem("contoured-duct", { scale: 0.5 });
