import { randomUUID } from "node:crypto";

/** Before a build nobody knows which code this is: what is cached holds for this process alone. */
const UNBUILT = `unbuilt-${randomUUID()}`;

/** Which method the assessments were made by: a hash of the core's code, put in by the build. */
export const methodVersion = (): string => process.env.TIN_RULER_METHOD ?? UNBUILT;
