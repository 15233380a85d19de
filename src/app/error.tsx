'use client';

/** What is shown when a page could not be made. */
export default function PageError({ reset }: { reset: () => void }) {
  return (
    <main className="mx-auto max-w-xl px-6 py-24" role="alert">
      <h1 className="font-serif text-3xl">This page could not be shown</h1>
      <p className="mt-3">Something went wrong inside Bijou. Nothing that was saved is lost.</p>
      <button type="button" className="btn btn-primary mt-4" onClick={reset}>
        Try again
      </button>
    </main>
  );
}
