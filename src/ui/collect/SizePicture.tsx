'use client';

import { fewestFor, sharesOf, type Share } from '@/core/collect/shares';
import { groupBy } from '@/core/group';
import type { Sound } from '@/wire';
import { count, plural, size } from '../shared/format';
import { MiddleCut } from '../shared/MiddleCut';
import { chooseOnly, useChoice } from './choice';

/** Parts narrower than this are drawn as one. */
const LEAST_SHARE = 0.006;
/** Parts wider than this have room for their names. */
const NAMED_SHARE = 0.06;
const MOST_LISTED = 12;
/** The share that "most of it" means. */
const MOST = 0.8;

interface Group {
  name: string;
  sounds: Sound[];
}

/** How the project's size divides among groups and sounds: a ruler of two rows, and a list. */
export function SizePicture({ sounds }: { sounds: readonly Sound[] }) {
  const groups = sharesOf(groupsOf(sounds), ({ sounds: inside }) => bytesOf(inside));
  const singles = sharesOf(sounds, ({ bytes }) => bytes);
  if (singles.length === 0) return null;
  const few = fewestFor(singles, MOST);
  return (
    <section
      aria-label="Where the bytes are"
      className="border-base-300 bg-base-100 mb-2 shrink-0 border px-4 py-3"
    >
      <p className="mb-2">
        <strong>{plural(few, 'sound')}</strong> of {count(singles.length)}{' '}
        {few === 1 ? 'makes' : 'make'} {Math.round(MOST * 100)} % of {size(bytesOf(sounds))}.{' '}
        <button
          className="link link-primary"
          onClick={() => chooseOnly(singles.slice(0, few).map(({ item }) => item.id))}
        >
          Choose {few === 1 ? 'it' : 'them'}
        </button>
      </p>
      {groups.length > 1 && (
        <Row label="Groups">
          {groups.map((part) => (
            <Part
              key={part.item.name}
              name={part.item.name || 'no group'}
              part={part}
              from={part.from}
              width={part.share}
              ids={part.item.sounds.map(({ id }) => id)}
            />
          ))}
        </Row>
      )}
      <Row label="Sounds">
        {groups.flatMap(({ item, from, share }) => partsOf(item, from, share))}
      </Row>
      <ol className="mt-3 grid grid-cols-[repeat(auto-fill,minmax(17rem,1fr))] gap-x-8">
        {singles.slice(0, MOST_LISTED).map(({ item, bytes, share }) => (
          <li key={item.id} className="border-base-300 flex items-baseline gap-2 border-t py-0.5">
            <button
              className="min-w-0 flex-1 text-left hover:underline"
              onClick={() => chooseOnly([item.id])}
            >
              <MiddleCut text={item.name} />
            </button>
            <span>{size(bytes)}</span>
            <span className="text-soft w-12 text-right">{percent(share)}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** The sounds of a group side by side under it; the smallest together. */
function partsOf({ sounds }: Group, from: number, width: number) {
  const shares = sharesOf(sounds, ({ bytes }) => bytes);
  const own = shares.filter(({ share }) => share * width >= LEAST_SHARE);
  const small = shares.slice(own.length);
  const parts = own.map((part) => (
    <Part
      key={part.item.id}
      name={part.item.name}
      part={part}
      from={from + part.from * width}
      width={part.share * width}
      ids={[part.item.id]}
    />
  ));
  if (small.length === 0) return parts;
  const bytes = small.reduce((sum, part) => sum + part.bytes, 0);
  const share = small.reduce((sum, part) => sum + part.share, 0);
  return [
    ...parts,
    <Part
      key={`small-${small[0]!.item.id}`}
      name={`${small.length} small`}
      part={{ bytes, share }}
      from={from + small[0]!.from * width}
      width={share * width}
      ids={small.map(({ item }) => item.id)}
    />,
  ];
}

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div role="group" aria-label={label} className="relative mb-1 h-8">
      {children}
    </div>
  );
}

/** A part of the ruler; pressing it chooses what it stands for. */
function Part({
  name,
  part,
  from,
  width,
  ids,
}: {
  name: string;
  part: Pick<Share<unknown>, 'bytes' | 'share'>;
  from: number;
  width: number;
  ids: readonly number[];
}) {
  const isChosen = useChoice((choice) => ids.length > 0 && ids.every((id) => choice.ids.has(id)));
  return (
    <button
      className={`border-base-100 absolute inset-y-0 truncate border-r px-1.5 text-left text-xs ${
        isChosen
          ? 'bg-primary text-primary-content'
          : 'bg-base-300 hover:bg-secondary hover:text-secondary-content'
      }`}
      style={{ left: `${from * 100}%`, width: `${width * 100}%` }}
      aria-pressed={isChosen}
      aria-label={`${name}, ${size(part.bytes)}`}
      title={`${name}: ${size(part.bytes)}, ${percent(width)} of all`}
      onClick={() => chooseOnly(ids)}
    >
      {width >= NAMED_SHARE && (
        <>
          <span className="font-semibold">{name}</span> {size(part.bytes)}
        </>
      )}
    </button>
  );
}

function groupsOf(sounds: readonly Sound[]): Group[] {
  const groups = groupBy(sounds, ({ group }) => group);
  return [...groups].map(([name, inside]) => ({ name, sounds: inside }));
}

function bytesOf(sounds: readonly Sound[]): number {
  return sounds.reduce((sum, { bytes }) => sum + bytes, 0);
}

function percent(share: number): string {
  return `${(share * 100).toFixed(share < 0.0995 ? 1 : 0)} %`;
}
