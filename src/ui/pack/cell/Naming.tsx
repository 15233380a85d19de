'use client';

import type { Brief } from '@/core/brief/schema';
import type { PackLine } from '@/wire';
import { useDraft } from '../../shared/useDraft';
import { useSending } from '../../shared/useSending';

/** Under which name each file will lie at its destination, and what is chosen of that for this sound alone. */
export function Naming({ line, brief }: { line: PackLine; brief: Brief }) {
  const { choose } = useSending();
  const { soundId, choices } = line.assignment;
  return (
    <section aria-label="Name">
      <h3 className="text-soft mb-1 text-xs font-semibold">Name there</h3>
      <ul className="mb-1.5">
        {line.plans.map(({ fileId, path }) => (
          <li key={fileId} className="font-mono text-xs break-all">
            {path}
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <Field
          label="Another name"
          value={choices.name ?? ''}
          onChange={(name) => void choose([soundId], brief, { name: name || null })}
        />
        <Field
          label="In front"
          value={choices.prefix ?? ''}
          isShort
          onChange={(prefix) => void choose([soundId], brief, { prefix: prefix || null })}
        />
      </div>
    </section>
  );
}

function Field({
  label,
  value,
  isShort = false,
  onChange,
}: {
  label: string;
  value: string;
  isShort?: boolean;
  onChange: (value: string) => void;
}) {
  const [draft, setDraft] = useDraft<string>(value);
  const put = () => {
    if (draft !== null && draft !== value) onChange(draft);
  };
  return (
    <label className={`text-soft text-xs ${isShort ? 'w-20' : 'min-w-0 flex-1'}`}>
      {label}
      <input
        className="input input-xs text-base-content w-full"
        value={draft ?? value}
        placeholder={isShort ? '' : 'as the brief says'}
        maxLength={isShort ? 40 : 200}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={put}
        onKeyDown={(event) => {
          if (event.key === 'Enter') put();
          if (event.key === 'Escape') setDraft(null);
        }}
      />
    </label>
  );
}
