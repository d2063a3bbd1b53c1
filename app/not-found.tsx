import Link from "next/link";

export default function NotFound() {
  return (
    <main id="main" className="min-h-screen bg-sheet px-8 py-10">
      <h1>There is nothing here</h1>
      <p className="mt-2 max-w-[52ch] text-ink-2">
        The address may be mistyped, or the case was deleted. A case deleted by mistake can be had back only from the notice that appears right after.
      </p>
      <p className="mt-4">
        <Link href="/" className="btn">
          To the board of cases
        </Link>
      </p>
    </main>
  );
}
