'use client';

import { useState, type ReactNode } from 'react';
import { freedomOf, isSpan, type Accepted, type Freedom } from '@/core/brief/accepted';
import type { Editing } from './editing';
import { freedoms } from '../DemandTable';

/** One line of the editor: a label, its field, and what is wrong with it. */
export function Row({
  label,
  hint,
  field,
  editing,
  children,
}: {
  label: string;
  hint?: string;
  /** Path in the brief. */
  field: string;
  editing: Editing;
  children: ReactNode;
}) {
  return (
    <div className="grid items-baseline gap-x-3 sm:grid-cols-[11rem_minmax(0,1fr)]" title={hint}>
      <span className="text-sm">{label}</span>
      <div className="min-w-0">
        <div className="flex flex-wrap items-baseline gap-x-2 gap-y-1">{children}</div>
        <Problem field={field} editing={editing} />
      </div>
    </div>
  );
}

/** What is wrong with one field. */
export function Problem({ field, editing: { problem } }: { field: string; editing: Editing }) {
  if (field === '' || !problem?.field?.startsWith(field)) return null;
  return (
    <p className="text-error text-xs">
      {problem.message.replace(/^That brief cannot be used(, at [^:]+)?: /, '')} {problem.hint}
    </p>
  );
}

export function Text({
  label,
  value,
  most,
  placeholder = '',
  className = 'w-full max-w-xl',
  onChange,
}: {
  label: string;
  value: string | undefined;
  most: number;
  placeholder?: string;
  className?: string;
  /** undefined for nothing. */
  onChange: (value: string | undefined) => void;
}) {
  return (
    <input
      className={`input input-sm ${className}`}
      aria-label={label}
      value={value ?? ''}
      maxLength={most}
      placeholder={placeholder}
      spellCheck={false}
      onChange={(event) => onChange(event.target.value || undefined)}
    />
  );
}

export function Area({
  label,
  value,
  most,
  onChange,
}: {
  label: string;
  value: string;
  most: number;
  onChange: (value: string) => void;
}) {
  return (
    <textarea
      className="textarea textarea-sm w-full max-w-xl"
      aria-label={label}
      rows={3}
      maxLength={most}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

/** A number that may be left out. */
export function Amount({
  label,
  value,
  unit,
  onChange,
}: {
  label: string;
  value: number | undefined;
  unit: string;
  onChange: (value: number | undefined) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? (value === undefined ? '' : String(value).replace('-', '−'));
  return (
    <span className="flex items-baseline gap-1.5">
      <input
        className="input input-sm w-28 text-right"
        inputMode="decimal"
        aria-label={label}
        placeholder="open"
        value={shown}
        maxLength={20}
        onChange={(event) => {
          setTyped(event.target.value);
          const text = event.target.value.trim().replace('−', '-').replaceAll(',', '');
          if (text === '') onChange(undefined);
          // What is no number is refused with the others, at its field.
          else onChange(Number(text));
        }}
        onBlur={() => setTyped(null)}
      />
      <span className="text-soft text-xs">{unit}</span>
    </span>
  );
}

/** One of a few, or nothing. */
export function Choice<Value extends string>({
  label,
  value,
  options,
  none,
  onChange,
}: {
  label: string;
  value: Value | undefined;
  options: Readonly<Record<Value, string>>;
  /** What stands for nothing; none where something has to be chosen. */
  none?: string;
  onChange: (value: Value | undefined) => void;
}) {
  return (
    <select
      className="select select-sm w-64 max-w-full"
      aria-label={label}
      value={value ?? ''}
      onChange={(event) => onChange((event.target.value || undefined) as Value | undefined)}
    >
      {none !== undefined && <option value="">{none}</option>}
      {(Object.entries(options) as [Value, string][]).map(([key, text]) => (
        <option key={key} value={key}>
          {text}
        </option>
      ))}
    </select>
  );
}

/** Several of a few; none of them means: as the source. */
export function Several({
  label,
  values,
  options,
  onChange,
}: {
  label: string;
  values: readonly number[] | undefined;
  options: readonly (readonly [value: number, text: string])[];
  onChange: (values: number[] | undefined) => void;
}) {
  const toggle = (value: number) => {
    const next = values?.includes(value)
      ? values.filter((one) => one !== value)
      : [...(values ?? []), value];
    onChange(next.length === 0 ? undefined : next);
  };
  return (
    <span role="group" aria-label={label} className="flex flex-wrap items-baseline gap-x-3">
      {options.map(([value, text]) => (
        <label key={value} className="flex items-center gap-1">
          <input
            type="checkbox"
            className="checkbox checkbox-xs checkbox-primary"
            checked={values?.includes(value) ?? false}
            onChange={() => toggle(value)}
          />
          {text}
          {values && values.length > 1 && values[0] === value && (
            <span className="text-soft text-xs">(preferred)</span>
          )}
        </label>
      ))}
      {!values && <span className="text-soft text-xs">open: as the source</span>}
    </span>
  );
}

/** A demand for numbers with how far it binds: one, several, a span, or any. */
export function Numbers({
  label,
  unit,
  value,
  usual,
  onChange,
}: {
  label: string;
  unit: string;
  value: Accepted | undefined;
  /** What it begins with when it is no longer open. */
  usual: number;
  onChange: (value: Accepted | undefined) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const freedom = freedomOf(value);
  const first = value === undefined ? usual : isSpan(value) ? value.from : (value[0] ?? usual);
  const last = value && !isSpan(value) ? (value.at(-1) ?? first) : value ? value.to : usual;
  const set = (next: Freedom) => {
    setTyped(null);
    if (next === 'free') onChange(undefined);
    else if (next === 'range') onChange({ from: Math.min(first, last), to: Math.max(first, last) });
    else onChange(next === 'fixed' ? [first] : [first, last === first ? usual : last]);
  };
  const number = (text: string) => Number(text.trim().replaceAll(',', ''));
  return (
    <>
      <select
        className="select select-sm w-28"
        aria-label={`${label}: how far it binds`}
        value={freedom}
        onChange={(event) => set(event.target.value as Freedom)}
      >
        {Object.entries(freedoms).map(([key, { word, says }]) => (
          <option key={key} value={key} title={says}>
            {word}
          </option>
        ))}
      </select>
      {value && isSpan(value) && (
        <span className="flex items-baseline gap-1.5">
          <Amount
            label={`${label} from`}
            value={value.from}
            unit="to"
            onChange={(from = 0) => onChange({ ...value, from })}
          />
          <Amount
            label={`${label} to`}
            value={value.to}
            unit={unit}
            onChange={(to = 0) => onChange({ ...value, to })}
          />
        </span>
      )}
      {value && !isSpan(value) && (
        <span className="flex items-baseline gap-1.5">
          <input
            className="input input-sm w-56"
            aria-label={label}
            title="Several with commas; the first is preferred"
            value={typed ?? value.join(', ')}
            maxLength={200}
            onChange={(event) => {
              setTyped(event.target.value);
              const list = event.target.value
                .split(/[,;]\s*|\s+/)
                .filter(Boolean)
                .map(number);
              onChange(list);
            }}
            onBlur={() => setTyped(null)}
          />
          <span className="text-soft text-xs">{unit}</span>
        </span>
      )}
    </>
  );
}

/** Fields that belong together, under a heading. */
export function Section({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <fieldset className="border-base-300 mb-4 border-t pt-2">
      <legend className="font-serif text-lg">{title}</legend>
      <div className="space-y-1.5">{children}</div>
    </fieldset>
  );
}
