import { Refused } from "./call";

interface Sending {
  /** told while it is sent: share of it that has gone */
  readonly told?: (share: number) => void;
  /** ends the sending */
  readonly signal?: AbortSignal;
}

const UNHEARD = "The server does not answer. Start it again and choose the file once more.";

/** Sends a file to where it is kept, piece by piece. @returns its name there @throws {Refused} with the server's sentence, or where it was stopped */
export function uploaded(file: Blob, { told, signal }: Sending = {}): Promise<string> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const refuse = (sentence: string) => reject(new Refused(sentence, {}));
    request.open("POST", "/api/uploads");
    request.responseType = "json";
    request.upload.onprogress = (e) => e.lengthComputable && told?.(e.loaded / e.total);
    request.onload = () => {
      const data = request.response as { hash?: string; error?: string } | null;
      if (request.status < 300 && data?.hash) resolve(data.hash);
      else refuse(data?.error ?? UNHEARD);
    };
    request.onerror = () => refuse(UNHEARD);
    request.onabort = () => refuse("Stopped: nothing was stored.");
    signal?.addEventListener("abort", () => request.abort(), { once: true });
    request.send(file);
  });
}
