import type { ErrorFacts } from '@/core/errors';

/** What is shown in the place of everything while the data folder cannot be opened. */
export function CannotOpen({ message, hint }: Pick<ErrorFacts, 'message' | 'hint'>) {
  return (
    <main className="mx-auto max-w-xl px-6 py-24" role="alert">
      <h1 className="font-serif text-3xl">Bijou cannot open its data</h1>
      <p className="mt-3">{message}</p>
      <p className="text-soft mt-1">{hint} Then reload this page.</p>
    </main>
  );
}
