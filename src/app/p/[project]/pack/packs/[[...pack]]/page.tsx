import type { Metadata } from 'next';
import { PacksPage } from '@/ui/pack/packs/PacksPage';

export const metadata: Metadata = { title: 'Packs' };

export default async function MadePacksPage({ params }: { params: Promise<{ pack?: string[] }> }) {
  const { pack } = await params;
  return <PacksPage packId={pack?.[0] === undefined ? null : Number(pack[0])} />;
}
