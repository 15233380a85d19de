'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import {
  candidateKey,
  plainCandidate,
  wholeName,
  type Candidate,
  type NamedCandidate,
} from '@/core/compare/candidates/candidate';
import { ApiError, call } from '../../shared/api';
import { kilohertz, plural } from '../../shared/format';
import { useAction } from '../../shared/useAction';
import { readCandidates, stepsAround, useSets } from '../api';
import { chooseCandidates, useCandidates } from './choice';

/** Rates that are asked for. */
const RATES = [8_000, 11_025, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000];

/** Which settings are tried. */
export function Candidates() {
  const candidates = useCandidates();
  const { ready, own, allowed } = useSets();
  return (
    <section aria-label="Candidates" className="flex min-h-0 min-w-0 flex-col">
      <h2 className="mb-1 font-serif text-xl">These candidates</h2>
      <div className="mb-2 flex flex-wrap gap-1.5">
        <select
          aria-label="Take a set"
          className="select select-xs w-60"
          value=""
          onChange={(event) => {
            const set = [...ready, ...own, ...allowed].find(
              ({ id }) => String(id) === event.target.value,
            );
            if (set) chooseCandidates(set.candidates);
          }}
        >
          <option value="">Take a set…</option>
          <optgroup label="Ready sets">
            {ready.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </optgroup>
          {own.length > 0 && (
            <optgroup label="Your own">
              {own.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </optgroup>
          )}
          <optgroup label="What a destination allows">
            {allowed.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </optgroup>
        </select>
        <KeepSet candidates={candidates} />
        <button
          className="btn btn-ghost btn-xs"
          disabled={candidates.length === 0}
          onClick={() => chooseCandidates([])}
        >
          None
        </button>
      </div>
      <AddOne candidates={candidates} />
      <ul
        aria-label="Chosen candidates"
        className="border-base-300 bg-base-100 mt-2 min-h-0 flex-1 overflow-y-auto border max-lg:max-h-72"
      >
        {candidates.map((candidate) => (
          <Line key={candidateKey(candidate)} candidate={candidate} />
        ))}
        {candidates.length === 0 && (
          <li className="text-soft px-3 py-2">Take a set, or add one after the other.</li>
        )}
      </ul>
    </section>
  );
}

function Line({ candidate }: { candidate: NamedCandidate }) {
  const candidates = useCandidates();
  const { run, busy } = useAction();
  const name = wholeName(candidate);
  const key = candidateKey(candidate);
  return (
    <li className="border-base-300 flex items-center gap-2 border-b px-2 py-1 last:border-0">
      <span className="min-w-0 flex-1 truncate" title={candidate.text}>
        {name}
      </span>
      <button
        className="btn btn-ghost btn-xs text-soft"
        disabled={busy}
        title="Add the steps of its setting on both sides"
        onClick={() =>
          void run(async () => chooseCandidates([...candidates, ...(await stepsAround(candidate))]))
        }
      >
        finer
      </button>
      <button
        className="btn btn-ghost btn-xs btn-square"
        aria-label={`Leave out ${name}`}
        title="Leave it out"
        onClick={() => chooseCandidates(candidates.filter((one) => candidateKey(one) !== key))}
      >
        <X size={13} />
      </button>
    </li>
  );
}

/** Adds a candidate that is typed, and gives all of them a rate or a layout. */
function AddOne({ candidates }: { candidates: readonly NamedCandidate[] }) {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const add = async () => {
    try {
      chooseCandidates([...candidates, ...(await readCandidates(text.split(',')))]);
      setText('');
      setProblem(null);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setProblem(`${error.facts.message} ${error.facts.hint}`);
    }
  };
  const all = (change: Partial<Candidate>) =>
    chooseCandidates(candidates.map((candidate) => ({ ...candidate, ...change })));
  return (
    <>
      <form
        className="flex flex-wrap items-center gap-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <input
          className="input input-sm min-w-40 flex-1"
          aria-label="Add a candidate"
          aria-invalid={problem !== null}
          placeholder="Add: ogg/vorbis@q3, mp3@128, flac …"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setProblem(null);
          }}
        />
        <button className="btn btn-paper btn-sm" disabled={text.trim() === ''}>
          Add
        </button>
        <select
          aria-label="Rate of all"
          className="select select-sm w-32"
          value={common(candidates.map(({ rateHz }) => rateHz)) ?? ''}
          onChange={({ target: { value } }) =>
            all({ rateHz: value === '' ? undefined : Number(value) })
          }
        >
          <option value="">own rate</option>
          {RATES.map((hz) => (
            <option key={hz} value={hz}>
              all at {kilohertz(hz)}
            </option>
          ))}
        </select>
        <select
          aria-label="Channels of all"
          className="select select-sm w-32"
          value={common(candidates.map(({ channels }) => channels)) ?? ''}
          onChange={({ target: { value } }) =>
            all({ channels: value === '' ? undefined : (value as 'mix' | 'stereo') })
          }
        >
          <option value="">own channels</option>
          <option value="mix">all mono</option>
          <option value="stereo">all stereo</option>
        </select>
      </form>
      {problem && (
        <p role="alert" className="text-error mt-1 text-xs">
          {problem}
        </p>
      )}
    </>
  );
}

/** What all have; undefined where they differ. */
function common<T>(values: readonly T[]): T | undefined {
  return values.every((value) => value === values[0]) ? values[0] : undefined;
}

/** Keeps what is chosen under a name, and deletes what is kept. */
function KeepSet({ candidates }: { candidates: readonly NamedCandidate[] }) {
  const { own, path, refetch } = useSets();
  const { run, busy } = useAction();
  const [name, setName] = useState<string | null>(null);
  const close = () => setName(null);
  if (name === null) {
    return (
      <button
        className="btn btn-paper btn-xs"
        disabled={candidates.length === 0}
        onClick={() => setName('')}
      >
        Keep as a set…
      </button>
    );
  }
  const same = own.find((set) => set.name === name.trim());
  return (
    <form
      className="flex flex-wrap items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        void run(async () => {
          await call(path, 'POST', { name, candidates: candidates.map(plainCandidate) });
          await refetch();
          close();
        });
      }}
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      <input
        autoFocus
        className="input input-xs w-40"
        aria-label="Name of the set"
        placeholder="Name of the set"
        maxLength={80}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <button className="btn btn-primary btn-xs" disabled={busy || name.trim() === ''}>
        {same ? 'Replace' : 'Keep'} {plural(candidates.length, 'candidate')}
      </button>
      {same && (
        <button
          type="button"
          className="btn btn-ghost btn-xs"
          disabled={busy}
          onClick={() =>
            void run(async () => {
              await call(`${path}/${same.id}`, 'DELETE');
              await refetch();
              close();
            })
          }
        >
          Delete “{same.name}”
        </button>
      )}
      <button type="button" className="btn btn-ghost btn-xs" onClick={close}>
        Cancel
      </button>
    </form>
  );
}
