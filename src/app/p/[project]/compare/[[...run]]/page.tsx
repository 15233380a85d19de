import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { ComparePage } from '@/ui/compare/ComparePage';

export const metadata: Metadata = { title: 'Compare' };

const isNumber = (text: string | undefined) => text !== undefined && /^\d+$/.test(text);

/** The newest run, one of them, what is to be tried, or two sides of a sound: RUN/pair/LEFT/RIGHT. */
export default async function Compare({ params }: { params: Promise<{ run?: string[] }> }) {
  const [run, view, left, right, ...rest] = (await params).run ?? [];
  if (run === undefined) return <ComparePage runId={null} isNew={false} />;
  if (run === 'new' && view === undefined) return <ComparePage runId={null} isNew />;
  if (!isNumber(run) || rest.length > 0) notFound();
  if (view === undefined) return <ComparePage runId={Number(run)} isNew={false} />;
  const isPair = view === 'pair' && (left === 'source' || isNumber(left)) && isNumber(right);
  if (!isPair) notFound();
  return <ComparePage runId={Number(run)} isNew={false} pair={{ left: left!, right: right! }} />;
}
