/** The bytes of a file the server keeps. @param what it is called where it is gone @throws {Error} in a sentence */
export async function bytesAt(address: string, what: string): Promise<Uint8Array> {
  const answer = await fetch(address);
  if (!answer.ok) throw new Error(`The file of the ${what} is not there any more; bring it in again.`);
  return new Uint8Array(await answer.arrayBuffer());
}
