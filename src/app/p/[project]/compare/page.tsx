import type { Metadata } from 'next';
import { CompareAhead } from '@/ui/ahead/Ahead';

export const metadata: Metadata = { title: 'Compare' };

export default function ComparePage() {
  return <CompareAhead />;
}
