import type { Metadata } from 'next';
import { DoctorPage } from '@/ui/pack/doctor/DoctorPage';

export const metadata: Metadata = { title: 'Doctor' };

export default function Doctor() {
  return <DoctorPage />;
}
