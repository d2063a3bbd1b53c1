import { afterEach, describe, expect, test, vi } from "vitest";
import { addressOf, call, Refused } from "./call";

const answers = (answer: Response | Error) =>
  vi.spyOn(globalThis, "fetch").mockImplementation(async () => {
    if (answer instanceof Error) throw answer;
    return answer;
  });
afterEach(() => vi.restoreAllMocks());

test("parts of a path are written so that they stay parts", () => {
  expect(addressOf("/cases/{id}/quantities/{key}", { id: "1", key: "a/b c?" })).toBe("/api/cases/1/quantities/a%2Fb%20c%3F");
  expect(addressOf("/logs")).toBe("/api/logs");
});

describe("a call", () => {
  test("sends its input to the operation's address and gives what came back", async () => {
    const sent = answers(Response.json({ number: 3 }));
    expect(await call("POST /cases/{id}/reports", { at: { id: "c" }, input: { issuedBy: "AB" } })).toEqual({ number: 3 });
    expect(sent).toHaveBeenCalledWith("/api/cases/c/reports", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: '{"issuedBy":"AB"}',
      signal: undefined,
    });
  });
  test("without input has no body", async () => {
    const sent = answers(Response.json([]));
    await call("GET /logs", {});
    expect(sent.mock.calls[0][1]?.body).toBeUndefined();
  });
  test.each([
    ["a sentence and what each field is told", Response.json({ error: "No.", details: { a: "b" } }, { status: 422 }), "No.", { a: "b" }],
    ["details that are a list tell no field anything", Response.json({ error: "No.", details: ["a"] }, { status: 422 }), "No.", {}],
    ["an answer that is no JSON", new Response("<html>", { status: 502 }), "The server answered 502.", {}],
    ["no answer", new Error("refused"), "The server does not answer. Start it again; nothing that was saved is lost.", {}],
  ])("refused: %s", async (_name, answer, message, details) => {
    answers(answer);
    const refused = await call("GET /logs", {}).catch((e: unknown) => e);
    expect(refused).toBeInstanceOf(Refused);
    expect(refused).toMatchObject({ message, details });
  });
});
