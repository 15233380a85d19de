import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { ComparePage, type CompareView } from '@/ui/compare/ComparePage';

export const metadata: Metadata = { title: 'Compare' };

/** The newest run, what is to be tried (`new`), or `RUN`, `RUN/loading`, `RUN/report`, `RUN/pair/LEFT/RIGHT`. */
export default async function Compare({ params }: { params: Promise<{ run?: string[] }> }) {
  const view = viewOf((await params).run ?? []);
  if (!view) notFound();
  return <ComparePage view={view} />;
}

const isNumber = (text: string | undefined): text is string =>
  text !== undefined && /^\d+$/.test(text);

function viewOf([first, kind, left, right, ...rest]: readonly string[]): CompareView | null {
  if (first === undefined) return { kind: 'trials', run: null };
  if (first === 'new' && kind === undefined) return { kind: 'new' };
  if (!isNumber(first) || rest.length > 0) return null;
  const run = Number(first);
  if (kind === undefined) return { kind: 'trials', run };
  if ((kind === 'loading' || kind === 'report') && left === undefined) return { kind, run };
  const isPair = kind === 'pair' && (left === 'source' || isNumber(left)) && isNumber(right);
  return isPair ? { kind, run, left, right } : null;
}
