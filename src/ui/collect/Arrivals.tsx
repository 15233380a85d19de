'use client';

import { X } from 'lucide-react';
import type { ErrorFacts } from '@/core/errors';
import { call } from '../shared/api';
import { plural, size } from '../shared/format';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { RawForm } from './RawForm';
import { cancelUploads, dismissUploads, isOpen, keptFile, useUploads } from './uploads';

/** What is on its way in, and what could not be brought in and why. */
export function Arrivals() {
  const { uploads } = useUploads();
  const { sounds } = useProject();
  const { run } = useAction();
  const refused = sounds.filter((sound) => sound.state === 'refused');
  const failed = uploads.filter((upload) => upload.state === 'failed');
  const already = uploads.filter((upload) => upload.state === 'already');
  const left = [
    ...failed.map(({ id, name, error }) => ({ key: `u${id}`, name, error, id: null })),
    ...refused.map(({ id, fileName, error }) => ({ key: `s${id}`, name: fileName, error, id })),
  ];
  const dismiss = () => {
    dismissUploads();
    void run(() =>
      Promise.all(refused.map(({ id }) => call(`sounds/${id}`, 'PATCH', { removed: true }))),
    );
  };
  return (
    <>
      <Sending />
      {left.length + already.length > 0 && (
        <section
          aria-label="Left out"
          className="border-base-300 bg-base-100 rounded-box mb-4 border border-l-4 border-l-error px-4 py-3"
        >
          <div className="flex items-center">
            <h2 className="font-semibold">
              {left.length > 0
                ? `${plural(left.length, 'file')} could not be brought in`
                : 'Nothing new'}
            </h2>
            <button className="btn btn-ghost btn-xs ml-auto" onClick={dismiss}>
              <X size={13} /> Dismiss
            </button>
          </div>
          <ul className="mt-1.5 space-y-1.5">
            {left.map(({ key, name, error, id }) => (
              <LeftOut key={key} name={name} error={error ?? null} soundId={id} />
            ))}
            {already.map(({ id, name, alreadyAs }) => (
              <li key={id}>
                <span className="font-semibold break-all">{name}</span> is here already
                {alreadyAs && ` as “${alreadyAs}”`}: the bytes are the same.
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

interface LeftOutProps {
  name: string;
  error: ErrorFacts | null;
  /** The refused sound; null for a file that did not get that far. */
  soundId: number | null;
}

function LeftOut({ name, error, soundId }: LeftOutProps) {
  const file = keptFile(name);
  const isUnknown = error?.code === 'not-audio' && soundId !== null;
  return (
    <li>
      <span className="font-semibold break-all">{name}</span>: {error?.message}{' '}
      <span className="text-soft">{error?.hint}</span>
      {isUnknown && file && <RawForm file={file} soundId={soundId} />}
    </li>
  );
}

function Sending() {
  const { uploads } = useUploads();
  const open = uploads.filter(isOpen);
  if (open.length === 0) return null;
  const bytes = uploads.reduce((sum, upload) => sum + upload.bytes, 0);
  const sent = uploads.reduce(
    (sum, upload) => sum + (isOpen(upload) ? upload.sent : upload.bytes),
    0,
  );
  return (
    <section
      aria-label="Coming in"
      className="border-base-300 bg-base-100 rounded-box mb-4 border px-4 py-3"
    >
      <div className="flex items-center gap-4">
        <progress
          className="progress progress-primary w-48"
          value={sent}
          max={bytes}
          aria-label="Sent"
        />
        <span>
          {plural(open.length, 'file')} coming in, {size(sent)} of {size(bytes)}
        </span>
        <button className="btn btn-ghost btn-xs ml-auto" onClick={cancelUploads}>
          Cancel
        </button>
      </div>
    </section>
  );
}
