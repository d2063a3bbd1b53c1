import type { Answer } from "../api/call";

/** A programme as the pages are told of it. */
export type ProgrammeEntry = Answer<"GET /programmes">["list"][number];
