import type { Metadata } from 'next';
import { Collect } from '@/ui/collect/Collect';

export const metadata: Metadata = { title: 'Collect' };

export default function CollectPage() {
  return <Collect />;
}
