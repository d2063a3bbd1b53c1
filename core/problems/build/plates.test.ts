import { describeProblem } from "./describeProblemForTests.ts";

describeProblem("plates");
