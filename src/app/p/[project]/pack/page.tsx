import type { Metadata } from 'next';
import { Pack } from '@/ui/pack/Pack';

export const metadata: Metadata = { title: 'Pack' };

export default function PackPage() {
  return <Pack view="matrix" />;
}
