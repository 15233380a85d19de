'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import type { OneOffOutlook, Sound } from '@/wire';
import { formatName, formatTime, kilohertz, layout, size } from '../shared/format';
import { MiddleCut } from '../shared/MiddleCut';
import type { Expected } from './estimates';
import { expectedText } from './words';

const LINE_PX = 30;

/** Every sound with what it is, and what it will come to. */
export function SoundList({
  sounds,
  outlooks,
  expected,
}: {
  sounds: readonly Sound[];
  outlooks: readonly OneOffOutlook[];
  expected: ReadonlyMap<number, Expected>;
}) {
  const box = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({
    count: sounds.length,
    getScrollElement: () => box.current,
    estimateSize: () => LINE_PX,
    overscan: 10,
  });
  const byId = new Map(outlooks.map((outlook) => [outlook.soundId, outlook]));
  return (
    <div
      ref={box}
      className="border-base-300 max-h-44 overflow-y-auto border-y"
      tabIndex={sounds.length * LINE_PX > 176 ? 0 : undefined}
    >
      <ul className="relative" style={{ height: list.getTotalSize() }} aria-label="Sounds">
        {list.getVirtualItems().map(({ index, start }) => {
          const sound = sounds[index]!;
          return (
            <li
              key={sound.id}
              className="border-base-300 absolute inset-x-0 flex h-[30px] items-center gap-4 border-b px-1"
              style={{ transform: `translateY(${start}px)` }}
            >
              <Line sound={sound} outlook={byId.get(sound.id)} expected={expected.get(sound.id)} />
            </li>
          );
        })}
      </ul>
    </div>
  );
}

function Line({
  sound,
  outlook,
  expected,
}: {
  sound: Sound;
  outlook: OneOffOutlook | undefined;
  expected: Expected | undefined;
}) {
  const { facts, name, bytes } = sound;
  return (
    <>
      <MiddleCut text={name} className="w-48 shrink-0 font-semibold" />
      {facts ? (
        <span className="text-soft min-w-0 flex-1 truncate text-xs">
          {formatName(facts.container, facts.codec)}, {kilohertz(facts.sampleRateHz)},{' '}
          {facts.bitDepth !== null && `${facts.bitDepth}-bit, `}
          {layout(facts.channels)}, {formatTime(facts.seconds, 1)}
        </span>
      ) : (
        <span className="text-soft flex-1 text-xs">being read …</span>
      )}
      {outlook?.error ? (
        <span className="text-error max-w-80 truncate text-xs" title={said(outlook.error)}>
          {said(outlook.error)}
        </span>
      ) : (
        <span className="whitespace-nowrap">
          {size(bytes)} → {expected ? <strong>{expectedText(expected)}</strong> : '…'}
        </span>
      )}
    </>
  );
}

function said({ message, hint }: { message: string; hint: string }): string {
  return `${message} ${hint}`;
}
