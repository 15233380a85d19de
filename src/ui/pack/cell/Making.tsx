'use client';

import { TriangleAlert } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { accepts, isSpan } from '@/core/brief/accepted';
import type { ChangedChoices } from '@/core/brief/choices';
import type { Brief, BriefFile } from '@/core/brief/schema';
import type { FormatChoice } from '@/core/formats/legality';
import type { Dial } from '@/core/formats/types';
import type { PackLine, PlannedFile } from '@/wire';
import { dialNames, dialValue } from '../../convert/words';
import { call } from '../../shared/api';
import { formatTime, kilohertz, layout, size } from '../../shared/format';
import { useSending } from '../../shared/useSending';
import { AmountField } from '../../shared/AmountField';

/** How each file is made, what goes on the way, what it will come to, and what is chosen for this sound alone. */
export function Making({ line, brief }: { line: PackLine; brief: Brief }) {
  const { choose } = useSending();
  const { data: formats = [] } = useQuery({
    queryKey: ['formats'],
    queryFn: () => call<FormatChoice[]>('formats'),
    staleTime: Infinity,
  });
  const { soundId, choices } = line.assignment;
  const put = (change: ChangedChoices) => void choose([soundId], brief, change);
  if (line.plans.length === 0) return null;
  const [first] = line.plans;
  const rates = offeredRates(brief, formats);
  return (
    <section aria-label="How it is made">
      <h3 className="text-soft mb-1 text-xs font-semibold">How it is made</h3>
      <ul className="space-y-2">
        {line.plans.map((plan) => {
          const file = brief.files.find(({ id }) => id === plan.fileId);
          const format = formats.find(({ id }) => id === plan.writer);
          return (
            <li key={plan.fileId}>
              <p>
                <strong>{format?.name ?? plan.writer}</strong>
                {plan.isCopy
                  ? ', handed on as it is: encoding it again would only lose'
                  : `, ${kilohertz(plan.rateHz)}, ${layout(plan.channels)}, ${formatTime(plan.seconds)}`}
              </p>
              <Expected plan={plan} />
              {plan.losses.map((loss) => (
                <p key={loss} className="text-soft flex gap-1.5 text-xs">
                  <TriangleAlert size={13} aria-hidden className="mt-px shrink-0" /> {loss}
                </p>
              ))}
              {file && format && !plan.isCopy && (
                <Settings
                  file={file}
                  plan={plan}
                  dials={format.dials}
                  isChosen={choices.settings?.[plan.fileId] !== undefined}
                  onChoose={(settings) =>
                    put({
                      settings: without({ ...choices.settings, [plan.fileId]: settings }),
                    })
                  }
                />
              )}
            </li>
          );
        })}
      </ul>
      {first && !first.isCopy && (
        <details
          className="mt-2"
          open={choices.rateHz !== undefined || choices.isMono || choices.seconds !== undefined}
        >
          <summary className="text-soft cursor-pointer text-xs">For this sound alone</summary>
          <div className="mt-1 flex flex-wrap items-end gap-x-3 gap-y-1.5">
            {rates.length > 1 && (
              <label className="text-soft text-xs">
                Sample rate
                <select
                  className="select select-xs text-base-content block w-32"
                  value={choices.rateHz ?? ''}
                  onChange={(event) =>
                    put({ rateHz: event.target.value === '' ? null : Number(event.target.value) })
                  }
                >
                  <option value="">as the brief says</option>
                  {rates.map((hz) => (
                    <option key={hz} value={hz}>
                      {kilohertz(hz)}
                    </option>
                  ))}
                </select>
              </label>
            )}
            {brief.files.every(({ channels }) => accepts(channels, 1)) &&
              (first.channels > 1 || choices.isMono) && (
                <label className="flex items-center gap-1.5 pb-0.5 text-xs">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs checkbox-primary"
                    checked={choices.isMono ?? false}
                    onChange={(event) => put({ isMono: event.target.checked || null })}
                  />
                  mono
                </label>
              )}
            <span className="text-soft text-xs">
              {choices.seconds === undefined ? 'Shorten to' : 'Shortened to'}
              <span className="text-base-content flex items-baseline gap-1">
                <AmountField
                  label="Shorten to seconds"
                  value={choices.seconds ?? Math.ceil(first.seconds * 100) / 100}
                  min={0.01}
                  max={86_400}
                  className="w-20"
                  onChange={(seconds) => put({ seconds })}
                />
                s
                {choices.seconds !== undefined && (
                  <button className="btn btn-ghost btn-xs" onClick={() => put({ seconds: null })}>
                    whole
                  </button>
                )}
              </span>
            </span>
          </div>
        </details>
      )}
    </section>
  );
}

const bases = {
  exact: '',
  neighbours: ', as files like it came to',
  usual: ', as such files usually come to',
};

function Expected({ plan: { expected } }: { plan: PlannedFile }) {
  const { least, most, basis } = expected;
  const isOne = basis === 'exact' || most - least < most * 0.02;
  return (
    <p className="text-soft text-xs">
      {isOne
        ? `about ${size(Math.round((least + most) / 2))}`
        : `${size(Math.round(least))} to ${size(Math.round(most))}`}
      {bases[basis]}
    </p>
  );
}

/** The quality or bit rate that a file is made with: the brief's, or one that is chosen. */
function Settings({
  file,
  plan,
  dials,
  isChosen,
  onChoose,
}: {
  file: BriefFile;
  plan: PlannedFile;
  dials: readonly Dial[];
  isChosen: boolean;
  onChoose: (settings: Record<string, number> | undefined) => void;
}) {
  const set = plan.settings as Partial<Record<Dial['name'], number>>;
  const dial = dials.find(({ name }) => set[name] !== undefined) ?? dials[0];
  if (!dial) return null;
  const value = set[dial.name] ?? dial.usual;
  const values = [...new Set([...dial.values, value])]
    .filter((one) => dial.name !== 'kbps' || accepts(file.bitRatesKbps, one))
    .sort((a, b) => a - b);
  return (
    <label className="text-soft mt-1 flex items-center gap-2 text-xs">
      {dialNames[dial.name]}
      <select
        className="select select-xs text-base-content w-36"
        value={value}
        onChange={(event) => onChoose({ [dial.name]: Number(event.target.value) })}
      >
        {values.map((one) => (
          <option key={one} value={one}>
            {dialValue(dial, one)}
          </option>
        ))}
      </select>
      {isChosen ? (
        <button className="btn btn-ghost btn-xs" onClick={() => onChoose(undefined)}>
          as the brief says
        </button>
      ) : (
        'as the brief says'
      )}
    </label>
  );
}

/** Rates that a person can choose from: those that all files of the brief take. */
function offeredRates({ files }: Brief, formats: readonly FormatChoice[]): number[] {
  const lists = files.map((file) => {
    const { sampleRatesHz: taken } = file;
    const legal = formats.find(({ id }) => id === file.writer)?.rates ?? [];
    return taken && !isSpan(taken)
      ? [...taken]
      : [...new Set([...legal, ...(taken ? [taken.from, taken.to] : [])])];
  });
  const [first = [], ...others] = lists;
  return first
    .filter((hz) => others.every((list) => list.includes(hz)))
    .filter((hz) => files.every(({ sampleRatesHz }) => accepts(sampleRatesHz, hz)))
    .sort((a, b) => a - b);
}

/** Without files for which nothing is chosen any more; null when none is left over. */
function without(
  settings: Record<string, Record<string, number> | undefined>,
): Record<string, Record<string, number>> | null {
  const kept = Object.entries(settings).filter(
    (entry): entry is [string, Record<string, number>] => entry[1] !== undefined,
  );
  return kept.length === 0 ? null : Object.fromEntries(kept);
}
