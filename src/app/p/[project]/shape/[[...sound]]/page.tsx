import type { Metadata } from 'next';
import { Shape } from '@/ui/shape/Shape';

export const metadata: Metadata = { title: 'Shape' };

export default async function ShapePage({ params }: { params: Promise<{ sound?: string[] }> }) {
  const [sound] = (await params).sound ?? [];
  return <Shape soundId={sound === undefined ? null : Number(sound)} />;
}
