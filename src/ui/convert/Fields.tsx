'use client';

import type { ReactNode } from 'react';
import type { FormatChoice } from '@/core/formats/legality';
import type { Dial } from '@/core/formats/types';
import { isPartOf } from '@/core/isPartOf';
import type { OneOffWish, WishedChannels } from '@/core/oneOff/plan';
import { kilohertz, plural } from '../shared/format';
import { channelNames, dialNames, dialValue } from './words';

/** Levels that several sounds can be brought to by one gain. */
const levels = {
  'true-peak': { label: 'loudest peak to −1 dBTP', wish: { to: 'true-peak', target: -1 } },
  lufs: { label: 'loudest to −16 LUFS', wish: { to: 'lufs', target: -16 } },
} as const;

/** Everything that may be asked beside the format; each begins as the source has it. */
export function Fields({
  format,
  dials,
  wish,
  onWish,
  hasSteps,
  count,
}: {
  format: FormatChoice;
  /** With the values that are legal for all sounds. */
  dials: readonly Dial[];
  wish: OneOffWish;
  onWish: (wish: OneOffWish) => void;
  /** How many of the sounds have steps that are on. */
  hasSteps: number;
  count: number;
}) {
  const set = wish.settings as Partial<Record<Dial['name'], number>>;
  const dial = dials.find(({ name }) => set[name] !== undefined);
  const depth = format.depths?.findIndex(({ settings }) => isPartOf(settings, wish.settings)) ?? -1;
  const without = (names: readonly string[]) =>
    Object.fromEntries(Object.entries(wish.settings).filter(([name]) => !names.includes(name)));
  const noDial = without(dials.map(({ name }) => name));
  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-2">
      {dials.length > 0 && (
        <Menu
          label={dials
            .map(({ name }, i) => (i === 0 ? dialNames[name] : dialNames[name].toLowerCase()))
            .join(' or ')}
          value={dial ? `${dial.name} ${set[dial.name]}` : ''}
          onChange={(text) => {
            const [name = '', value] = text.split(' ');
            onWish({
              ...wish,
              settings: name === '' ? noDial : { ...noDial, [name]: Number(value) },
            });
          }}
        >
          <option value="">usual: {dialValue(dials[0]!, dials[0]!.usual)}</option>
          {dials.map((one) => (
            <optgroup key={one.name} label={dialNames[one.name]}>
              {one.values.map((value) => (
                <option key={value} value={`${one.name} ${value}`}>
                  {dialValue(one, value)}
                </option>
              ))}
            </optgroup>
          ))}
        </Menu>
      )}
      <Menu
        label="Sample rate"
        value={String(wish.rateHz ?? '')}
        onChange={(text) => onWish({ ...wish, rateHz: text === '' ? undefined : Number(text) })}
      >
        <option value="">as the source</option>
        {format.rates.map((hz) => (
          <option key={hz} value={hz}>
            {kilohertz(hz)}
          </option>
        ))}
      </Menu>
      <Menu
        label="Channels"
        value={wish.channels ?? ''}
        onChange={(text) =>
          onWish({ ...wish, channels: (text || undefined) as WishedChannels | undefined })
        }
      >
        <option value="">as the source</option>
        {Object.entries(channelNames).map(([value, name]) => (
          <option key={value} value={value}>
            {name}
          </option>
        ))}
      </Menu>
      {format.depths && (
        <Menu
          label="Bit depth"
          value={depth < 0 ? '' : String(depth)}
          onChange={(text) => {
            const names = Object.keys(format.depths![0]!.settings);
            const chosen = text === '' ? {} : format.depths![Number(text)]!.settings;
            onWish({ ...wish, settings: { ...without(names), ...chosen } });
          }}
        >
          <option value="">as the source</option>
          {format.depths.map(({ name }, i) => (
            <option key={name} value={i}>
              {name}
            </option>
          ))}
        </Menu>
      )}
      <Menu
        label={count > 1 ? 'Level, one gain for all' : 'Level'}
        value={wish.together?.to ?? ''}
        onChange={(text) =>
          onWish({
            ...wish,
            together: text === '' ? undefined : levels[text as keyof typeof levels].wish,
          })
        }
      >
        <option value="">as it is</option>
        {Object.entries(levels).map(([to, { label }]) => (
          <option key={to} value={to}>
            {count > 1 ? label : label.replace('loudest peak', 'peak').replace('loudest ', '')}
          </option>
        ))}
      </Menu>
      {hasSteps > 0 && (
        <label className="flex items-center gap-2 pb-1.5 text-xs">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={!wish.isBare}
            onChange={({ target }) =>
              onWish({ ...wish, isBare: target.checked ? undefined : true })
            }
          />
          with{' '}
          {hasSteps === 1 && count === 1
            ? 'its steps'
            : `the steps of ${plural(hasSteps, 'sound')}`}
        </label>
      )}
    </div>
  );
}

function Menu({
  label,
  value,
  onChange,
  children,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  children: ReactNode;
}) {
  return (
    <label className="flex flex-col gap-1 text-xs">
      {label}
      <select
        className="select select-sm w-auto min-w-36"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {children}
      </select>
    </label>
  );
}
