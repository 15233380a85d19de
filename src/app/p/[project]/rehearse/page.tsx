import type { Metadata } from 'next';
import { RehearsePage } from '@/ui/rehearse/RehearsePage';

export const metadata: Metadata = { title: 'Rehearse' };

export default function Rehearse() {
  return <RehearsePage />;
}
