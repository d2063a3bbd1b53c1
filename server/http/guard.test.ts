import { expect, test } from "vitest";
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
