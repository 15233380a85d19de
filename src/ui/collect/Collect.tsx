'use client';

import { useRouter } from 'next/navigation';
import { useMemo, useRef, useState } from 'react';
import type { Sound } from '@/wire';
import { plural } from '../shared/format';
import { pressButton, useKeys } from '../shared/keys';
import { useProject, useSetLayout } from '../shared/project';
import { carry, pathFor } from '../shape/chosen';
import { play, prepare } from '../strip/listening';
import { useCue } from '../strip/useCue';
import { versionsOf } from '../strip/versions';
import { useArrived } from './arrived';
import { chooseOnly, chooseTo, invertChoice, toggleChoice, useChoice } from './choice';
import { ConvertButton } from '../convert/ConvertButton';
import { Empty } from './Empty';
import { Arrivals } from './intake/Arrivals';
import { useEdits } from '../shared/useEdits';
import { WorryFilter } from './order/WorryFilter';
import { SelectionBar } from './SelectionBar';
import { SizePicture } from './SizePicture';
import { totalText } from './table/GroupLine';
import { readLayout, type Layout } from './table/layout';
import { SoundTable } from './table/SoundTable';
import { useSoundTable } from './table/useSoundTable';
import { BringIn, Toolbar } from './Toolbar';

/** The first station: what has come in, what each of it is, and what is wrong with it. */
export function Collect() {
  const { project, sounds, cells, briefs, layout: stored, rest } = useProject();
  const router = useRouter();
  const setLayout = useSetLayout();
  const { edit } = useEdits();
  const layout = useMemo(() => readLayout(stored), [stored]);
  const onLayout = (change: Partial<Layout>) => setLayout({ ...layout, ...change });
  const [search, setSearch] = useState('');
  const searchField = useRef<HTMLInputElement>(null);
  const [isRenaming, setRenaming] = useState(false);
  const { ids, lead } = useChoice();
  const cue = useCue();
  useArrived(sounds);
  const kept = useMemo(() => sounds.filter(({ state }) => state !== 'refused'), [sounds]);
  const table = useSoundTable(kept, { cells, briefs }, layout, search);
  const rows = table.getRowModel().rows.filter((row) => !row.getIsGrouped());
  const entries = rows.map(({ original }) => original);
  const listed = entries.map(({ sound }) => sound.id);
  // In the order of the list; what a filter hides is not worked on.
  const chosen = entries.filter(({ sound }) => ids.has(sound.id));
  const leading = entries.find(({ sound }) => sound.id === lead)?.sound;

  const listen = (sound: Sound | undefined) => {
    if (!sound?.facts) return;
    cue(sound);
    if (layout.hear) play({ frame: 0, range: null });
  };
  const choose = (id: number, { toggle, extend }: { toggle: boolean; extend: boolean }) => {
    if (extend) chooseTo(id, listed);
    else if (toggle) toggleChoice(id);
    else chooseOnly([id]);
    listen(kept.find((sound) => sound.id === id));
  };
  const playFrom = (id: number, frame: number) => {
    const sound = kept.find((one) => one.id === id);
    if (!sound) return;
    chooseOnly([id]);
    cue(sound, { key: `source-${id}` });
    play({ frame, range: null });
  };
  const step = (to: (at: number) => number, extend: boolean) => {
    const at = lead === null ? -1 : listed.indexOf(lead);
    const next = listed[Math.max(0, Math.min(listed.length - 1, to(at)))];
    if (next === undefined) return;
    choose(next, { toggle: false, extend });
    const onward = entries[to(listed.indexOf(next))]?.sound;
    if (layout.hear && onward) prepare(versionsOf(onward, { lines: [], briefs }));
    // From here on keys belong to the list, not to the button that was pressed last.
    focusList();
  };
  const remove = () => {
    if (chosen.length === 0) return;
    const what =
      chosen.length === 1
        ? `“${chosen[0]!.sound.name}” was`
        : `${plural(chosen.length, 'sound')} were`;
    const next = listed[listed.indexOf(chosen.at(-1)!.sound.id) + 1];
    void edit(
      chosen.map(({ sound }) => ({ soundId: sound.id, removed: true })),
      `${what} taken out.`,
    );
    chooseOnly(next === undefined ? [] : [next]);
  };
  // One object for all lines, so that they are only drawn anew when something of theirs changes.
  const latest = useRef({ choose, playFrom });
  latest.current = { choose, playFrom };
  const [actions] = useState(() => ({
    onChoose: (...args: Parameters<typeof choose>) => latest.current.choose(...args),
    onChooseAll: (all: number[]) => chooseOnly(all),
    onPlay: (...args: Parameters<typeof playFrom>) => latest.current.playFrom(...args),
  }));

  const chosenIds = chosen.map(({ sound }) => sound.id);
  const together = (page: 'join' | 'several' | 'loops') => {
    if (chosenIds.length === 0) return;
    carry(chosenIds);
    router.push(pathFor(project.id, page, chosenIds));
  };
  const [first, last, up, down] = [() => 0, () => Infinity, by(-1), by(1)];
  useKeys({
    up: () => step(up, false),
    'shift+up': () => step(up, true),
    down: () => step(down, false),
    'shift+down': () => step(down, true),
    home: () => step(first, false),
    'shift+home': () => step(first, true),
    end: () => step(last, false),
    'shift+end': () => step(last, true),
    'ctrl+a': () => chooseOnly(listed),
    'ctrl+i': () => invertChoice(listed),
    escape: () => chooseOnly([]),
    s: () => together('several'),
    o: () => together('loops'),
    j: () => together('join'),
    enter: () => leading && router.push(`/p/${project.id}/shape/${leading.id}`),
    delete: remove,
    f2: () => setRenaming(chosen.length > 0),
    g: () => pressButton('Group'),
    t: () => pressButton('Label'),
    n: () => pressButton('Note'),
    z: () => pressButton('Convert'),
    w: () => pressButton('Worries of'),
    e: () => pressButton('Send to'),
    h: () => onLayout({ hear: !layout.hear }),
    b: () => onLayout({ sizes: !layout.sizes }),
    '/': () => searchField.current?.focus(),
  });

  return (
    <div className="flex min-h-full flex-col px-6 pt-4 pb-3 md:h-full">
      <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1 className="font-serif text-3xl">Collect</h1>
        {kept.length > 0 && (
          <p className="text-soft">
            {totalText(kept.map((sound) => ({ sound })))}
            {rest && ' so far'}
            {entries.length < kept.length && `; ${plural(entries.length, 'sound')} listed`}
          </p>
        )}
        <BringIn />
        {chosen.length === 0 && (
          <ConvertButton ids={[]} className="btn btn-paper btn-sm self-center" />
        )}
      </div>
      <Arrivals />
      {kept.length === 0 ? (
        <Empty />
      ) : (
        <>
          <Toolbar
            layout={layout}
            onLayout={onLayout}
            search={search}
            onSearch={setSearch}
            searchField={searchField}
            onToList={() => {
              if (lead === null || !listed.includes(lead)) step(first, false);
              focusList();
            }}
            listed={entries}
          />
          <WorryFilter
            sounds={kept}
            chosen={layout.worry}
            onChoose={(worry) => onLayout({ worry })}
          />
          {layout.sizes && <SizePicture sounds={kept} />}
          {rows.length === 0 ? (
            <NothingFound
              onAll={() => {
                setSearch('');
                onLayout({ filters: {}, worry: null });
              }}
            />
          ) : (
            <SoundTable table={table} layout={layout} onLayout={onLayout} actions={actions} />
          )}
          <SelectionBar
            chosen={chosen}
            listed={listed}
            all={kept}
            isRenaming={isRenaming}
            onRenaming={setRenaming}
            onRemove={remove}
          />
        </>
      )}
    </div>
  );
}

function focusList(): void {
  document
    .querySelector<HTMLElement>('[role=grid] [role=rowgroup]')
    ?.focus({ preventScroll: true });
}

const by = (places: number) => (at: number) => at + places;

function NothingFound({ onAll }: { onAll: () => void }) {
  return (
    <div className="border-base-300 bg-base-100 flex-1 border py-12 text-center">
      <p className="font-serif text-xl">No sound is like that</p>
      <button className="link link-primary mt-1" onClick={onAll}>
        Show all sounds
      </button>
    </div>
  );
}
