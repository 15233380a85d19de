import type { Metadata } from 'next';
import { Pack } from '@/ui/pack/Pack';

export const metadata: Metadata = { title: 'Pack by destination' };

export default function DestinationsPage() {
  return <Pack view="lists" />;
}
