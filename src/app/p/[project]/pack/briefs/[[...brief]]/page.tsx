import type { Metadata } from 'next';
import { BriefsPage } from '@/ui/pack/briefs/BriefsPage';

export const metadata: Metadata = { title: 'Briefs' };

export default async function BriefPage({ params }: { params: Promise<{ brief?: string[] }> }) {
  const { brief } = await params;
  return <BriefsPage briefId={brief?.[0] ?? null} />;
}
