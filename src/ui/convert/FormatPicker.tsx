'use client';

import type { FormatChoice } from '@/core/formats/legality';

/** All formats in view: those that keep every sample, and those that are smaller for it. */
export function FormatPicker({
  formats,
  value,
  onChange,
}: {
  formats: readonly FormatChoice[];
  value: string;
  onChange: (id: string) => void;
}) {
  const group = (title: string, isLossy: boolean) => (
    <div className="grid grid-cols-[7.5rem_1fr] items-baseline gap-2 max-sm:grid-cols-1">
      <span className="text-soft text-xs">{title}</span>
      <span className="flex flex-wrap gap-1.5">
        {formats
          .filter(({ depths }) => (depths === null) === isLossy)
          // The usual codecs of a container first.
          .sort((one, other) => Number(one.id.includes('-ima')) - Number(other.id.includes('-ima')))
          .map(({ id, name, extension }) => (
            <label
              key={id}
              title={`Files ending in .${extension}`}
              className={`btn btn-sm has-focus-visible:outline-2 has-focus-visible:outline-offset-2 ${
                id === value ? 'btn-primary' : 'btn-paper'
              }`}
            >
              <input
                type="radio"
                name="format"
                className="sr-only"
                checked={id === value}
                onChange={() => onChange(id)}
              />
              {name}
            </label>
          ))}
      </span>
    </div>
  );
  return (
    <fieldset className="space-y-1.5">
      <legend className="sr-only">Format</legend>
      {group('Smaller, with loss', true)}
      {group('Every sample kept', false)}
    </fieldset>
  );
}
