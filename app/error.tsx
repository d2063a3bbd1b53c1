"use client";

import Link from "next/link";

export default function PageError({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  return (
    <main id="main" className="min-h-screen bg-sheet px-8 py-10">
      <h1>This page could not be made</h1>
      <p className="mt-2 max-w-[60ch] text-ink-2">
        Nothing was changed or lost. The server's output says what went wrong{error.digest ? `, under ${error.digest}` : ""}. A damaged stored file is
        named there with its hash.
      </p>
      <p className="mt-4 flex gap-3">
        <button type="button" className="btn" onClick={reset}>
          Try again
        </button>
        <Link href="/" className="btn quiet">
          To the board of cases
        </Link>
      </p>
    </main>
  );
}
