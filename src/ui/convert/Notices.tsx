'use client';

import { Info, TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import type { ClippingChoice } from '@/core/brief/choices';
import type { FormatChoice } from '@/core/formats/legality';
import { ChangeTally } from '@/core/oneOff/tally';
import type { OneOffWish } from '@/core/oneOff/plan';
import type { OneOffOutlook, Sound } from '@/wire';
import { number, plural } from '../shared/format';

const cures: readonly [ClippingChoice, string, string][] = [
  ['limit', 'Turn loud moments down', 'to −1 dBTP, the rest stays as loud as it is'],
  ['lower', 'Turn all of it down', 'each by as much as it needs'],
  ['keep', 'Let it be cut off', 'as it is'],
];

/** What will not stay as it is, in words, and what a person has to decide. */
export function Notices({
  format,
  sounds,
  outlooks,
  wish,
  onWish,
}: {
  format: FormatChoice;
  sounds: readonly Sound[];
  outlooks: readonly OneOffOutlook[];
  wish: OneOffWish;
  onWish: (wish: OneOffWish) => void;
}) {
  const tally = new ChangeTally();
  for (const { changes } of outlooks) tally.add(changes);
  const over = outlooks.flatMap(({ overDb }) => overDb ?? []);
  const lines = [
    ...tally.lines('sound'),
    ...counted(outlooks.flatMap(({ lost }) => lost ?? [])),
    ...lossLines(format, sounds),
  ];
  const chosen = cures.find(([choice]) => choice === wish.clipping);
  return (
    <div className="space-y-1.5 text-xs">
      {over.length > 0 && (
        <div className="text-warning flex flex-wrap items-center gap-x-2 gap-y-1">
          <TriangleAlert size={14} aria-hidden />
          <span>
            {plural(over.length, 'sound')} would be cut off at full scale, up to{' '}
            {number(Math.max(...over))} dB:
          </span>
          {cures.map(([choice, label, how]) => (
            <button
              key={choice}
              type="button"
              className="btn btn-paper btn-xs"
              title={how}
              onClick={() => onWish({ ...wish, clipping: choice })}
            >
              {label}
            </button>
          ))}
        </div>
      )}
      {chosen && (
        <Notice>
          What lies above full scale: {chosen[1].toLowerCase()}.{' '}
          <button
            type="button"
            className="link link-primary"
            onClick={() => onWish({ ...wish, clipping: undefined })}
          >
            Decide again
          </button>
        </Notice>
      )}
      {lines.map((line) => (
        <Notice key={line}>{line}</Notice>
      ))}
    </div>
  );
}

function Notice({ children }: { children: ReactNode }) {
  return (
    <p className="text-soft flex gap-1.5">
      <Info size={14} aria-hidden className="mt-px shrink-0" />
      <span>{children}</span>
    </p>
  );
}

/** The same sentence about several sounds once, with their number. */
function counted(sentences: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (const one of sentences) counts.set(one, (counts.get(one) ?? 0) + 1);
  return [...counts].map(([sentence, n]) => `${plural(n, 'sound')}: ${sentence}`);
}

/** What the codec itself costs. */
function lossLines({ name, depths }: FormatChoice, sounds: readonly Sound[]): string[] {
  if (depths !== null) return [];
  const before = sounds.filter(({ facts }) => facts?.bitDepth === null).length;
  return [
    `${name} leaves out what ears miss least; what is left out cannot be had back from the result. Your sounds stay as they are.`,
    ...(before > 0
      ? [
          `${plural(before, 'sound')} came in with loss already: encoding again loses a little more.`,
        ]
      : []),
  ];
}
