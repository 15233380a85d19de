'use client';

import { Stethoscope } from 'lucide-react';
import { useRef, useState } from 'react';
import type { Examined } from '@/wire';
import { ApiError } from '../../shared/api';
import { useProject } from '../../shared/project';
import { sendFile } from '../../shared/sendFile';
import { Examination } from './Examination';

/** A file that was shown, and what came of it. */
interface Patient {
  key: number;
  file: File;
  state: 'looking' | 'known' | 'failed';
  found: Examined | null;
  problem: string | null;
}

/** Files of one visit, newest first; nothing of them is kept. */
const MOST_SHOWN = 20;
let next = 0;

/**
 * Who would take a finished file, and if nobody: why, and what cures it.
 * @param briefId Only this destination is asked; null for all.
 */
export function Doctor({ briefId }: { briefId: string | null }) {
  const { project } = useProject();
  const [patients, setPatients] = useState<readonly Patient[]>([]);
  const [isOver, setOver] = useState(false);
  const isSmall = patients.length > 0 || briefId !== null;
  const field = useRef<HTMLInputElement>(null);
  const put = (key: number, change: Partial<Patient>) =>
    setPatients((all) => all.map((one) => (one.key === key ? { ...one, ...change } : one)));
  const show = async (files: readonly File[]) => {
    const shown = files.slice(0, MOST_SHOWN).map((file): Patient => {
      return { key: next++, file, state: 'looking', found: null, problem: null };
    });
    setPatients((all) => [...shown, ...all].slice(0, MOST_SHOWN));
    for (const { key, file } of shown) {
      try {
        const found = await sendFile<Examined>(`projects/${project.id}/doctor`, file);
        put(key, { state: 'known', found });
      } catch (error) {
        const facts = error instanceof ApiError ? error.facts : null;
        const problem = facts ? `${facts.message} ${facts.hint}` : 'It could not be looked at.';
        put(key, { state: 'failed', problem });
      }
    }
  };
  return (
    <>
      <div
        className={`rounded-box mb-4 flex flex-col items-center gap-2 border-2 border-dashed px-6 text-center ${
          isSmall ? 'py-3' : 'py-8'
        } ${isOver ? 'border-primary bg-primary/10' : 'border-base-300 bg-base-100'}`}
        onDragOver={(event) => {
          event.preventDefault();
          event.stopPropagation();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          event.stopPropagation();
          setOver(false);
          void show([...event.dataTransfer.files]);
        }}
      >
        {patients.length === 0 && <Stethoscope size={26} aria-hidden className="text-primary" />}
        <p className="font-serif text-xl">
          {briefId === null ? 'Who would take this file?' : 'Would it take this file?'}
        </p>
        <p className={isSmall ? 'sr-only' : 'text-soft max-w-prose'}>
          Drop a finished file that was made anywhere. It is decoded and held against every brief;
          what a destination would reject is said, with why, and cured if you like. Nothing of it is
          kept.
        </p>
        <button className="btn btn-primary btn-sm" onClick={() => field.current?.click()}>
          Choose files
        </button>
        <input
          ref={field}
          type="file"
          multiple
          className="hidden"
          aria-label="Files for the doctor"
          onChange={(event) => {
            void show([...(event.target.files ?? [])]);
            event.target.value = '';
          }}
        />
      </div>
      <ul className="space-y-4">
        {patients.map(({ key, file, state, found, problem }) => (
          <li key={key}>
            {state === 'looking' && (
              <p role="status" className="text-soft border-base-300 bg-base-100 border px-4 py-3">
                Looking into “{file.name}” …
              </p>
            )}
            {state === 'failed' && (
              <p role="alert" className="border-base-300 bg-base-100 border px-4 py-3">
                <span className="font-semibold">{file.name}</span>:{' '}
                <span className="text-error">{problem}</span>
              </p>
            )}
            {found && <Examination file={file} found={found} briefId={briefId} />}
          </li>
        ))}
      </ul>
    </>
  );
}
