'use client';

import { useState } from 'react';
import { renamed, renameWords, unknownWords, type RenameRule } from '@/core/collect/rename';
import type { Sound } from '@/wire';
import { Dialog } from '../../shared/Dialog';
import { plural } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { useEdits } from '../../shared/useEdits';

const MOST_SHOWN = 200;

/** New names for one sound or for many, from a pattern, shown while it is typed. */
export function RenameDialog({
  sounds,
  all,
  isOpen,
  onClose,
}: {
  /** In the order in which they are numbered. */
  sounds: readonly Sound[];
  all: readonly Sound[];
  isOpen: boolean;
  onClose: () => void;
}) {
  return (
    <Dialog
      title={sounds.length === 1 ? 'Rename' : `Rename ${plural(sounds.length, 'sound')}`}
      isOpen={isOpen}
      onClose={onClose}
      width="max-w-2xl"
    >
      <Form sounds={sounds} all={all} onClose={onClose} />
    </Dialog>
  );
}

function Form({
  sounds,
  all,
  onClose,
}: {
  sounds: readonly Sound[];
  all: readonly Sound[];
  onClose: () => void;
}) {
  const { edit, busy } = useEdits();
  const isOne = sounds.length === 1;
  const [rule, setRule] = useState<RenameRule>({
    pattern: isOne ? sounds[0]!.name : '{name}',
    find: '',
    put: '',
    from: 1,
  });
  const ids = new Set(sounds.map(({ id }) => id));
  const others = all.filter(({ id }) => !ids.has(id)).map(({ name }) => name);
  const changes = renamed(sounds, rule, others);
  const different = changes.filter(({ before, after }) => before !== after);
  const unknown = unknownWords(rule.pattern);
  const isEmpty = rule.pattern.trim() === '';
  const submit = async () => {
    const edits = different.map(({ id, after }) => ({ soundId: id, name: after }));
    if (await edit(edits, `${plural(edits.length, 'sound')} renamed.`)) onClose();
  };
  const field = (name: keyof RenameRule, label: string, className: string) => (
    <label className={`block text-xs ${className}`}>
      {label}
      <input
        className="input input-sm mt-1 w-full"
        type={name === 'from' ? 'number' : 'text'}
        min={0}
        value={rule[name]}
        autoFocus={name === 'pattern'}
        onFocus={(event) => event.target.select()}
        onChange={({ target }) =>
          setRule({ ...rule, [name]: name === 'from' ? Number(target.value) : target.value })
        }
      />
    </label>
  );
  return (
    <form
      className="mt-3 space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <div className="flex flex-wrap gap-3">
        {field('pattern', isOne ? 'Name' : 'Pattern', 'min-w-56 flex-1')}
        {!isOne && field('from', 'First number', 'w-24')}
      </div>
      {!isOne && (
        <>
          <p className="text-soft flex flex-wrap gap-x-3 gap-y-1 text-xs">
            {Object.entries(renameWords).map(([word, { says }]) => (
              <button
                key={word}
                type="button"
                className="hover:text-base-content"
                title="Put it behind the pattern"
                onClick={() => setRule({ ...rule, pattern: `${rule.pattern}{${word}}` })}
              >
                <code className="text-primary">{`{${word}}`}</code> {says}
              </button>
            ))}
          </p>
          <div className="flex gap-3">
            {field('find', 'Then replace', 'flex-1')}
            {field('put', 'by', 'flex-1')}
          </div>
        </>
      )}
      {unknown.length > 0 && (
        <p className="text-warning">
          {unknown.map((word) => `{${word}}`).join(', ')} means nothing and stays as it is.
        </p>
      )}
      <table className="w-full" aria-label="Names before and after">
        <tbody className="block max-h-64 overflow-y-auto">
          {changes.slice(0, MOST_SHOWN).map(({ id, before, after, problem }) => (
            <tr key={id} className="border-base-300 flex gap-3 border-t py-1">
              <td className="text-soft w-2/5 min-w-0">
                <MiddleCut text={before} />
              </td>
              <td aria-hidden>→</td>
              <td className="min-w-0 flex-1">
                <span className={before === after ? 'text-soft' : 'font-semibold'}>{after}</span>
                {problem && <span className="text-warning block text-xs">{problem}</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {changes.length > MOST_SHOWN && (
        <p className="text-soft text-xs">and {changes.length - MOST_SHOWN} more</p>
      )}
      <div className="flex justify-end gap-2">
        <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
          Cancel
        </button>
        <button
          className="btn btn-primary btn-sm"
          disabled={busy || isEmpty || different.length === 0}
        >
          {isOne ? 'Rename' : `Rename ${plural(different.length, 'sound')}`}
        </button>
      </div>
    </form>
  );
}
