import { describeProblem } from "./describeProblemForTests.ts";

describeProblem("lidded-box", { scale: 0.5 });
