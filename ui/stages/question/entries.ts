import { entryOf } from "../../forms/entries";
import type { QuestionEntries } from "./questionEntries";

export const QuestionEntry = entryOf<QuestionEntries>();
