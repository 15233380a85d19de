import type { Metadata } from 'next';
import { JoinDesk } from '@/ui/shape/join/JoinDesk';
import { idsOf } from '@/ui/shape/chosen';

export const metadata: Metadata = { title: 'Join' };

export default async function JoinPage({
  searchParams,
}: {
  searchParams: Promise<{ sounds?: string }>;
}) {
  return <JoinDesk soundIds={idsOf((await searchParams).sounds)} />;
}
