import type { Metadata } from 'next';
import { LoopSeveral } from '@/ui/shape/loops/LoopSeveral';

export const metadata: Metadata = { title: 'Loop several' };

export default async function LoopsPage({
  searchParams,
}: {
  searchParams: Promise<{ sounds?: string }>;
}) {
  return <LoopSeveral address={(await searchParams).sounds} />;
}
