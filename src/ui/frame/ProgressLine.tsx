import type { ReactNode } from 'react';

/** A line under the header that says how far something is. */
export function ProgressLine({
  label,
  value,
  max,
  children,
}: {
  label: string;
  value: number;
  max: number;
  children: ReactNode;
}) {
  return (
    <div
      className="border-base-300 bg-base-100 flex items-center gap-4 border-b px-6 py-1.5"
      role="status"
    >
      <progress
        className="progress progress-primary w-48"
        value={value}
        max={max}
        aria-label={label}
      />
      {children}
    </div>
  );
}
