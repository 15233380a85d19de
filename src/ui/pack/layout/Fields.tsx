'use client';

import type { LayoutField } from '@/core/brief/layout';
import type { Brief } from '@/core/brief/schema';
import type { PackPart } from '@/wire';
import { TypedField } from '../../shared/TypedField';
import { useDraft } from '../../shared/useDraft';
import { useSettling } from './asking';

/** The title, and what else the layout asks of people. */
export function Fields({ brief, part }: { brief: Brief; part: PackPart }) {
  const { change } = useSettling(brief.id);
  return (
    <section
      aria-label="What is asked of you"
      className="border-base-300 bg-base-100 min-w-64 flex-1 space-y-2 border px-4 py-3"
    >
      <h3 className="font-serif text-lg">What it says of itself</h3>
      <Field
        label="Title"
        about="The project’s name unless you say otherwise."
        value={part.title}
        onChange={(title) => void change('', 'PATCH', { title: title === '' ? null : title })}
      />
      {(part.layout?.fields ?? []).map((field) => (
        <Asked
          key={field.id}
          field={field}
          value={part.fields[field.id] ?? field.value}
          onChange={(value) => void change('', 'PATCH', { fields: { [field.id]: value } })}
        />
      ))}
    </section>
  );
}

function Asked({
  field: { title, about, value: usual, oneOf },
  value,
  onChange,
}: {
  field: LayoutField;
  value: string | number;
  onChange: (value: string | number | null) => void;
}) {
  if (oneOf) {
    return (
      <label className="block">
        <span className="text-soft text-xs">{title}</span>
        <select
          className="select select-sm w-full"
          value={String(value)}
          onChange={(event) => onChange(oneOf[event.target.selectedIndex] ?? null)}
        >
          {oneOf.map((one) => (
            <option key={one} value={String(one)}>
              {one}
            </option>
          ))}
        </select>
        {about && <span className="text-soft text-xs">{about}</span>}
      </label>
    );
  }
  const isNumber = typeof usual === 'number';
  return (
    <Field
      label={title}
      about={about}
      value={String(value)}
      isGood={(text) => !isNumber || Number.isFinite(Number(text.replace('−', '-')))}
      onChange={(text) =>
        onChange(text === '' ? null : isNumber ? Number(text.replace('−', '-')) : text)
      }
    />
  );
}

function Field({
  label,
  about,
  value,
  isGood = () => true,
  onChange,
}: {
  label: string;
  about?: string | undefined;
  value: string;
  isGood?: (text: string) => boolean;
  onChange: (text: string) => void;
}) {
  const [typed, setTyped] = useDraft<string>(value);
  return (
    <label className="block">
      <span className="text-soft text-xs">{label}</span>
      <TypedField
        aria-label={label}
        className="w-full"
        typed={typed}
        shown={value}
        isGood={typed === null || isGood(typed)}
        onType={setTyped}
        onCommit={() => {
          const text = (typed ?? '').trim();
          setTyped(null);
          if (text !== value) onChange(text);
        }}
      />
      {about && <span className="text-soft text-xs">{about}</span>}
    </label>
  );
}
