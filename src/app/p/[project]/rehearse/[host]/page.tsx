import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { hosts } from '@/core/host';
import { HostPage } from '@/ui/rehearse/HostPage';

interface Props {
  params: Promise<{ host: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { host } = await params;
  return { title: hosts.find(({ id }) => id === host)?.title ?? 'Rehearse' };
}

export default async function Host({ params, searchParams }: Props) {
  const { host } = await params;
  const { pack, brief } = await searchParams;
  if (!hosts.some(({ id }) => id === host)) notFound();
  const isNumber = typeof pack === 'string' && /^\d{1,12}$/.test(pack);
  return (
    <HostPage
      key={host}
      hostId={host}
      packId={isNumber ? Number(pack) : null}
      briefId={typeof brief === 'string' ? brief : null}
    />
  );
}
