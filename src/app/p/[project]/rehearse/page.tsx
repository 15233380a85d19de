import type { Metadata } from 'next';
import { RehearseAhead } from '@/ui/ahead/Ahead';

export const metadata: Metadata = { title: 'Rehearse' };

export default function RehearsePage() {
  return <RehearseAhead />;
}
