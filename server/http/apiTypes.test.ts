import { readFileSync } from "node:fs";
import { expect, test } from "vitest";
import { API_TYPES, apiTypes } from "../../scripts/apiTypes.ts";

test("the pages' types are those of the operations: run `npm run api-types` where they are not", async () => {
  expect(readFileSync(API_TYPES, "utf8")).toBe(await apiTypes());
});
