'use client';

import { useId, useState } from 'react';
import { toast } from 'sonner';
import { languageIn, typedLanguage } from '@/core/brief/languages';
import type { Sound } from '@/wire';
import { plural } from '../../shared/format';
import { useEdits } from '../../shared/useEdits';

interface FormProps {
  sounds: readonly Sound[];
  all: readonly Sound[];
  onDone: () => void;
}

/** Puts sounds into a group. */
export function GroupForm({ sounds, all, onDone }: FormProps) {
  const { edit } = useEdits();
  const known = [...new Set(all.map(({ group }) => group))].filter(Boolean).sort();
  return (
    <TextForm
      label="Group"
      hint="Groups may stand in each other: weather/wind. Empty for none."
      start={shared(sounds.map(({ group }) => group))}
      suggestions={known}
      button="Put in group"
      onSubmit={async (group) => {
        const edits = sounds.map(({ id }) => ({ soundId: id, group }));
        const where = group ? `put in “${group}”` : 'taken out of groups';
        if (await edit(edits, `${plural(sounds.length, 'sound')} ${where}.`)) onDone();
      }}
    />
  );
}

/** Gives sounds a label more, or takes one away from all that have it. */
export function LabelForm({ sounds, all, onDone }: FormProps) {
  const { edit } = useEdits();
  const known = [...new Set(all.flatMap(({ labels }) => labels))].sort();
  const present = [...new Set(sounds.flatMap(({ labels }) => labels))].sort();
  const put = async (label: string, isOn: boolean) => {
    const edits = sounds.map(({ id, labels }) => {
      const others = labels.filter((one) => one !== label);
      return { soundId: id, labels: isOn ? [...others, label] : others };
    });
    const did = isOn ? `labelled “${label}”` : `without “${label}”`;
    if (await edit(edits, `${plural(sounds.length, 'sound')} ${did}.`)) onDone();
  };
  return (
    <div className="space-y-2">
      {present.length > 0 && (
        <ul className="flex flex-wrap gap-1">
          {present.map((label) => (
            <li key={label}>
              <button
                className="border-base-300 hover:border-secondary rounded-sm border px-1.5 text-xs"
                title={`Take “${label}” away`}
                onClick={() => void put(label, false)}
              >
                {label} ×
              </button>
            </li>
          ))}
        </ul>
      )}
      <TextForm
        label="New label"
        hint="A word that sounds are found by, whatever group they are in."
        start=""
        suggestions={known}
        button="Add label"
        required
        onSubmit={(label) => put(label.trim().slice(0, 40), true)}
      />
    </div>
  );
}

/** Writes a note on sounds. */
export function NoteForm({ sounds, onDone }: FormProps) {
  const { edit } = useEdits();
  return (
    <TextForm
      label="Note"
      hint="For whoever works with it next. Empty for none."
      start={shared(sounds.map(({ note }) => note))}
      suggestions={[]}
      button="Keep note"
      onSubmit={async (note) => {
        const edits = sounds.map(({ id }) => ({ soundId: id, note }));
        if (await edit(edits, `Note on ${plural(sounds.length, 'sound')} kept.`)) onDone();
      }}
    />
  );
}

/** Says which language sounds are in: one for all, or what their names and groups say. */
export function LanguageForm({ sounds, all, onDone }: FormProps) {
  const { edit } = useEdits();
  const known = [...new Set(all.flatMap(({ language }) => language ?? []))].sort();
  const named = sounds.flatMap((sound) => {
    const language = languageIn(sound);
    return language === null ? [] : [{ soundId: sound.id, language }];
  });
  const found = [...new Set(named.map(({ language }) => language))].sort();
  return (
    <div className="space-y-2">
      {named.length > 0 && (
        <button
          className="btn btn-paper btn-sm w-64"
          title="Taken from the ends of names and from groups"
          onClick={() =>
            void edit(named, `The language of ${plural(named.length, 'sound')} set.`).then(
              (went) => went && onDone(),
            )
          }
        >
          From names and groups: {found.join(', ')} ({named.length})
        </button>
      )}
      <TextForm
        label="Language"
        hint="As in en, de or pt-br. Destinations with a place for each put them there. Empty for none."
        start={shared(sounds.map(({ language }) => language ?? ''))}
        suggestions={known}
        button="Set language"
        onSubmit={async (typed) => {
          const language = typedLanguage(typed);
          if (typed !== '' && language === null) {
            toast.error(`“${typed}” is no language.`, {
              description: 'Write it as en, de or pt-br.',
            });
            return;
          }
          const edits = sounds.map(({ id }) => ({ soundId: id, language }));
          if (await edit(edits, `The language of ${plural(sounds.length, 'sound')} set.`)) onDone();
        }}
      />
    </div>
  );
}

/** What all have in common; nothing where they differ. */
function shared(values: readonly string[]): string {
  const [first = '', ...others] = values;
  return others.every((value) => value === first) ? first : '';
}

function TextForm({
  label,
  hint,
  start,
  suggestions,
  button,
  required = false,
  onSubmit,
}: {
  label: string;
  hint: string;
  start: string;
  suggestions: readonly string[];
  button: string;
  required?: boolean;
  onSubmit: (text: string) => Promise<void>;
}) {
  const [text, setText] = useState(start);
  const list = useId();
  return (
    <form
      className="w-64 space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        void onSubmit(text.trim());
      }}
    >
      <label className="block text-xs">
        {label}
        <input
          className="input input-sm mt-1 w-full"
          value={text}
          maxLength={400}
          list={list}
          required={required}
          autoFocus
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <datalist id={list}>
        {suggestions.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
      <p className="text-soft text-xs">{hint}</p>
      <button className="btn btn-primary btn-sm">{button}</button>
    </form>
  );
}
