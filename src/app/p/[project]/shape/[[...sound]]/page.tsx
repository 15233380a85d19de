import type { Metadata } from 'next';
import { Shape } from '@/ui/shape/Shape';

export const metadata: Metadata = { title: 'Shape' };

export default async function ShapePage({ params }: { params: Promise<{ sound?: string[] }> }) {
  const [sound, bench] = (await params).sound ?? [];
  const soundId = sound === undefined ? null : Number(sound);
  return <Shape soundId={soundId} isLooping={bench === 'loop'} />;
}
