import type { Metadata } from 'next';
import { BuildsPage } from '@/ui/pack/builds/BuildsPage';

export const metadata: Metadata = { title: 'Builds' };

export default async function BuildPage({ params }: { params: Promise<{ build?: string[] }> }) {
  const { build } = await params;
  return <BuildsPage buildId={build?.[0] === undefined ? null : Number(build[0])} />;
}
