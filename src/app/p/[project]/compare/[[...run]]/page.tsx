import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { ComparePage } from '@/ui/compare/ComparePage';

export const metadata: Metadata = { title: 'Compare' };

export default async function Compare({ params }: { params: Promise<{ run?: string[] }> }) {
  const [run, ...rest] = (await params).run ?? [];
  if (rest.length > 0 || (run !== undefined && run !== 'new' && !/^\d+$/.test(run))) notFound();
  const isNew = run === 'new';
  return <ComparePage runId={run === undefined || isNew ? null : Number(run)} isNew={isNew} />;
}
