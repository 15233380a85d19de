import type { Metadata } from 'next';
import { JoinDesk } from '@/ui/shape/join/JoinDesk';

export const metadata: Metadata = { title: 'Join' };

export default async function JoinDeskPage({
  searchParams,
}: {
  searchParams: Promise<{ sounds?: string }>;
}) {
  return <JoinDesk address={(await searchParams).sounds} />;
}
