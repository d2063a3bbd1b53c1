import { describe, expect, test } from "vitest";
import { dispatch } from "./dispatch.ts";
import { hostAllowed, originAllowed } from "./guard.ts";

test.each([
  ["127.0.0.1:4310", true],
  ["localhost", true],
  ["127.0.0.1.evil.example", false],
  ["evil.example:4310", false],
  ["localhost:99999999", false],
  ["[::1]:4310", false],
  [null, false],
])("host %s", (host, allowed) => expect(hostAllowed(host)).toBe(allowed));

test.each([
  ["http://127.0.0.1:4310", "127.0.0.1:4310", true],
  ["http://localhost:4310", "127.0.0.1:4310", false],
  ["https://127.0.0.1:4310", "127.0.0.1:4310", false],
  ["null", "127.0.0.1:4310", false],
  [null, "127.0.0.1:4310", false],
])("a change from %s to %s", (origin, host, allowed) => expect(originAllowed(origin, host)).toBe(allowed));

describe("operations are refused before anything is opened", () => {
  const ask = (method: string, path: string, headers: Record<string, string> = {}) =>
    dispatch(new Request(`http://127.0.0.1:1/api/${path}`, { method, headers: { host: "127.0.0.1:1", ...headers } }), path.split("/"));
  test.each([
    ["GET", "nothing/here", 404],
    ["POST", "cases", 403],
    ["DELETE", "cases/00000000-0000-4000-8000-000000000000", 403],
    ["POST", "uploads", 403],
    ["POST", "cases/00000000-0000-4000-8000-000000000000/follow", 403],
    ["DELETE", "recipes/00000000-0000-4000-8000-000000000000", 403],
    ["GET", "uploads", 404],
    ["GET", "runs/not-an-id/history", 404],
    ["GET", "cases/..%2f..%2fetc/assessment", 404],
  ])("%s %s", async (method, path, status) => expect((await ask(method, path)).status).toBe(status));
  test("a borrowed name", async () => {
    expect((await ask("GET", "schema/report", { host: "evil.example" })).status).toBe(421);
    // Uploads and what nodes send go past the proxy: the guard here is the only one.
    expect((await ask("POST", "uploads", { host: "evil.example", origin: "http://evil.example" })).status).toBe(421);
    expect((await ask("POST", "node/take", { host: "evil.example" })).status).toBe(421);
  });
});
