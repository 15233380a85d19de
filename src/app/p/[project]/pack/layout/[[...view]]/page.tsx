import type { Metadata } from 'next';
import { LayoutPage } from '@/ui/pack/layout/LayoutPage';

export const metadata: Metadata = { title: 'Layout' };

export default async function PackLayoutPage({ params }: { params: Promise<{ view?: string[] }> }) {
  const [brief, view] = (await params).view ?? [];
  return <LayoutPage briefId={brief ?? null} view={view ?? ''} />;
}
