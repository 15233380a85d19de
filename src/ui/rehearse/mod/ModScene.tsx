'use client';

import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import type { ModScene as Mod } from '@/core/host/mod/scene';
import { islandPlaces } from '@/core/host/mod/places';
import { waterLevel } from '@/core/host/mod/tide';
import { useKeys } from '../../shared/keys';
import type { Rehearsal } from '../rehearsing';
import type { SceneProps } from '../sceneProps';
import { useAt } from '../useRehearsal';
import { useRun } from '../useRun';
import { CallBoard } from './CallBoard';
import { Island } from './Island';
import { ModRun } from './run';
import { TideClock, useIslandTime } from './TideClock';

/** The island: one walks from place to place, waits for the tide, and plays calls. */
export function ModScene({ rehearsal, loaded }: SceneProps) {
  const run = useRun(loaded, (first) => new ModRun(rehearsal, first));
  if (!run) return null;
  return <OnIsland rehearsal={rehearsal} run={run} mod={loaded.scene as Mod} />;
}

function OnIsland({ rehearsal, run, mod }: { rehearsal: Rehearsal; run: ModRun; mod: Mod }) {
  const { place, heard } = useStore(run.store);
  const sounding = useAt(rehearsal, (state) => state.sounding);
  const isHeard = heard !== null && sounding.has(heard);
  const now = useIslandTime(run);
  const silent = new Set(
    islandPlaces.filter((one) => run.musicOf(one) === undefined).map(({ id }) => id),
  );
  const by = (steps: number) => {
    const at = islandPlaces.indexOf(place) + steps;
    const next = islandPlaces[at];
    if (next) run.walk(next);
  };
  useKeys({ left: () => by(-1), right: () => by(1), n: () => run.goToTurn() });
  return (
    <div className="grid items-start gap-5 lg:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]">
      <div className="space-y-3">
        <section aria-label="The island" className="border-base-300 bg-base-100 border">
          <header className="border-base-300 flex items-center gap-3 border-b px-4 py-1.5">
            <Icon icon={mod.icon} />
            <h2 className="font-serif text-lg">{mod.title || 'A mod without a title'}</h2>
            <span className="text-soft text-xs">
              {mod.author && `by ${mod.author}, `}edition {mod.edition}
            </span>
          </header>
          <TideClock run={run} isHeard={isHeard} />
          <Island
            water={waterLevel(now)}
            at={place.id}
            heard={isHeard}
            silent={silent}
            onWalk={(id) => {
              const next = islandPlaces.find((one) => one.id === id);
              if (next) run.walk(next);
            }}
          />
        </section>
      </div>
      <CallBoard run={run} calls={mod.calls} />
    </div>
  );
}

/** The mod’s icon, as a picture and nothing else. */
function Icon({ icon }: { icon: Uint8Array | null }) {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    if (!icon) return setAddress(null);
    const reader = new FileReader();
    reader.onload = () => setAddress(String(reader.result));
    reader.readAsDataURL(new Blob([new Uint8Array(icon)], { type: 'image/png' }));
    return () => reader.abort();
  }, [icon]);
  if (address === null) return <span className="gem bg-base-300 size-7 shrink-0" aria-hidden />;
  return <img src={address} alt="Icon of the mod" className="size-8 shrink-0" />;
}
