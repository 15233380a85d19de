import type { Metadata } from 'next';
import { Several } from '@/ui/shape/several/Several';

export const metadata: Metadata = { title: 'Shape several' };

export default async function SeveralPage({
  searchParams,
}: {
  searchParams: Promise<{ sounds?: string }>;
}) {
  return <Several address={(await searchParams).sounds} />;
}
