import { Refused } from "./call";

/** Sends a file to where it is kept. @returns its name there @throws {Refused} with the server's sentence */
export async function uploaded(file: Blob): Promise<string> {
  const answer = await fetch("/api/uploads", { method: "POST", body: file }).catch(() => undefined);
  const data = (await answer?.json().catch(() => undefined)) as { hash?: string; error?: string } | undefined;
  if (!answer?.ok || !data?.hash) throw new Refused(data?.error ?? "The server does not answer. Start it again and choose the file once more.", {});
  return data.hash;
}
