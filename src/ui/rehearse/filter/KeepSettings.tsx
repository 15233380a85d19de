'use client';

import { Download, ListPlus } from 'lucide-react';
import { useStore } from 'zustand';
import { SETTINGS_PATH, settingsText } from '@/core/host/filter/settings';
import type { LoadedPack } from '@/player/host/messages';
import { useSettling } from '../../pack/layout/asking';
import type { PackPart } from '../packs';
import type { FilterRun } from './run';

/** What is set leaves the stage as a list: as a file, and into the packs that are made from now on. */
export function KeepSettings({
  run,
  loaded,
  part,
}: {
  run: FilterRun;
  loaded: LoadedPack;
  part: PackPart | null;
}) {
  const { choices, isChanged } = useStore(run.store);
  const text = () => {
    const listed = loaded.sounds.map(({ file, seconds }) => ({ path: file, seconds }));
    return settingsText(part?.pack.title ?? 'The filter', listed, choices);
  };
  const download = () => {
    const address = URL.createObjectURL(new Blob([text()], { type: 'text/plain' }));
    const link = document.createElement('a');
    link.href = address;
    link.download = SETTINGS_PATH;
    link.click();
    URL.revokeObjectURL(address);
  };
  return (
    <>
      {isChanged && <span className="text-warning text-xs">otherwise than the pack says</span>}
      <button
        className="btn btn-paper btn-xs"
        title="What to set in the host, as a list"
        onClick={download}
      >
        <Download size={12} aria-hidden /> The list
      </button>
      {part && <Keep run={run} part={part} />}
    </>
  );
}

function Keep({ run, part }: { run: FilterRun; part: PackPart }) {
  const { choices, isChanged } = useStore(run.store);
  const { change, busy } = useSettling(part.brief.id);
  const keep = async () => {
    const data = { stage: choices };
    if (await change('/stage', 'PUT', data, 'Kept for the next pack.')) run.kept();
  };
  return (
    <button
      className="btn btn-paper btn-xs"
      disabled={busy || !isChanged}
      title={`The next pack says it in its ${SETTINGS_PATH}`}
      onClick={() => void keep()}
    >
      <ListPlus size={12} aria-hidden /> Keep it for the pack
    </button>
  );
}
