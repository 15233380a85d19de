import { useState } from 'react';
import { stepKinds } from '@/core/recipe/steps';
import type { StepPurpose } from '@/core/recipe/types';
import { Popover } from '../../shared/Popover';

const purposes: Readonly<Record<StepPurpose, string>> = {
  length: 'Length',
  level: 'Level',
  channels: 'Channels',
  repair: 'Repair',
  time: 'Time',
  loop: 'Loop',
};

/** Every kind of step, by what it is for; letters that are typed leave those that fit. */
export function AddStep({ onAdd }: { onAdd: (kind: string) => void }) {
  return (
    <Popover
      label="Add a step"
      face="Add a step…"
      title="Add a step behind the others (A)"
      className="btn btn-paper btn-sm"
    >
      {(close) => (
        <Kinds
          onChoose={(kind) => {
            close();
            onAdd(kind);
          }}
        />
      )}
    </Popover>
  );
}

function Kinds({ onChoose }: { onChoose: (kind: string) => void }) {
  const [typed, setTyped] = useState('');
  const wanted = typed.trim().toLowerCase();
  const fitting = stepKinds.filter(({ name, hint }) =>
    `${name} ${hint}`.toLowerCase().includes(wanted),
  );
  // What Enter takes: whatever is called so goes before what is only described so.
  const best = [...fitting].sort((a, b) => rank(a.name, wanted) - rank(b.name, wanted))[0];
  return (
    <div className="w-80">
      <input
        // The panel has just been opened by whoever wants to type here.
        autoFocus
        className="input input-sm w-full"
        placeholder="Search, for example fade"
        aria-label="Search steps"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || !best) return;
          // The focus goes back to the button, which Enter must not press again.
          event.preventDefault();
          onChoose(best.kind);
        }}
      />
      {fitting.length === 0 && <p className="text-soft mt-2">No step is called that.</p>}
      {(Object.entries(purposes) as [StepPurpose, string][]).map(([purpose, title]) => {
        const kinds = fitting.filter((kind) => kind.purpose === purpose);
        if (kinds.length === 0) return null;
        return (
          <section key={purpose} aria-label={title} className="mt-2">
            <h3 className="text-soft text-xs font-semibold">{title}</h3>
            {kinds.map(({ kind, name, hint }) => (
              <button
                key={kind}
                className={`hover:bg-base-200 focus-visible:bg-base-200 block w-full rounded px-1.5 py-0.5 text-left ${
                  wanted && kind === best?.kind ? 'bg-base-200' : ''
                }`}
                onClick={() => onChoose(kind)}
              >
                <span className="font-semibold">{name}</span>{' '}
                <span className="text-soft text-xs">{hint}</span>
              </button>
            ))}
          </section>
        );
      })}
    </div>
  );
}

function rank(name: string, wanted: string): number {
  const at = name.toLowerCase().indexOf(wanted);
  return at === 0 ? 0 : at > 0 ? 1 : 2;
}
