'use client';

import { PackHead } from '../PackHead';
import { Doctor } from './Doctor';

/** Finished files from anywhere, held against every destination. */
export function DoctorPage() {
  return (
    <div className="px-6 py-4">
      <PackHead view="doctor" />
      <Doctor briefId={null} />
    </div>
  );
}
