'use client';

import { Hammer, Play, X } from 'lucide-react';
import Link from 'next/link';
import { storedBrief } from '@/core/brief/catalogue';
import type { Brief } from '@/core/brief/schema';
import type { Cell, PackLine, Sound } from '@/wire';
import { useLine } from '../../shared/lines';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';
import { useBuild } from '../making';
import { useSending } from '../../shared/useSending';
import { play } from '../../strip/listening';
import { useCue } from '../../strip/useCue';
import { CompareSettings } from '../../compare/choose/CompareSettings';
import { buildable, stateSigns } from '../matrix/states';
import { LineChoices } from './Choices';
import { Findings } from './Findings';
import { Making } from './Making';
import { Naming } from './Naming';
import { Outputs } from './Outputs';
import { TooBig } from './TooBig';

/** Everything about one sound at one destination: what will happen and why, what is chosen, what came of it. */
export function CellPanel({ cell, onClose }: { cell: Cell; onClose: () => void }) {
  const { sounds, briefs } = useProject();
  const sound = sounds.find(({ id }) => id === cell.soundId);
  if (!sound) return null;
  return (
    <Opened cell={cell} sound={sound} brief={storedBrief(briefs, cell.briefId)} onClose={onClose} />
  );
}

function Opened({
  cell,
  sound,
  brief,
  onClose,
}: {
  cell: Cell;
  sound: Sound;
  brief: Brief;
  onClose: () => void;
}) {
  const { project } = useProject();
  const line = useLine(cell);
  const { icon: Icon, phrase, className } = stateSigns[cell.state];
  return (
    <aside
      aria-label={`${sound.name} at ${brief.title}`}
      className="border-base-300 bg-base-100 max-h-full w-full shrink-0 overflow-y-auto border lg:w-[26rem]"
    >
      <header className="border-base-300 bg-base-100 sticky top-0 z-[1] border-b px-4 py-2.5">
        <div className="flex items-start gap-2">
          <h2 className="min-w-0 flex-1 font-serif text-lg leading-tight">
            <Link
              className="hover:underline"
              href={`/p/${project.id}/shape/${sound.id}`}
              prefetch={false}
              title={`Shape “${sound.name}”`}
            >
              <MiddleCut text={sound.name} />
            </Link>
            <span className="text-soft block text-sm">at {brief.title}</span>
          </h2>
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label="Close"
            title="Close (Esc)"
            onClick={onClose}
          >
            <X size={14} />
          </button>
        </div>
        <div className="mt-1 flex flex-wrap items-center gap-2">
          <span className={`flex items-center gap-1 text-sm ${className}`}>
            <Icon size={15} aria-hidden /> {singular(phrase)}
          </span>
          <Deeds cell={cell} sound={sound} brief={brief} />
          {line && <CompareSettings line={line} sound={sound} />}
        </div>
      </header>
      {line && (
        <div className="divide-base-300 divide-y [&>section]:px-4 [&>section]:py-3">
          <section aria-label="What will happen">
            <Findings line={line} />
            <LineChoices line={line} brief={brief} />
          </section>
          <Making line={line} brief={brief} />
          <TooBig line={line} brief={brief} sound={sound} />
          <Naming line={line} brief={brief} />
          <Results line={line} brief={brief} sound={sound} />
        </div>
      )}
    </aside>
  );
}

function Deeds({ cell, sound, brief }: { cell: Cell; sound: Sound; brief: Brief }) {
  const { build, busy } = useBuild();
  const { release } = useSending();
  const cue = useCue();
  return (
    <span className="ml-auto flex gap-1">
      <button
        className="btn btn-paper btn-xs"
        title="Hear the sound as it is; V goes on to what is made of it"
        onClick={() => {
          cue(sound);
          play({ frame: 0, range: null });
        }}
      >
        <Play size={12} fill="currentColor" /> Hear
      </button>
      <button
        className="btn btn-paper btn-xs"
        disabled={busy || !buildable.has(cell.state)}
        onClick={() => void build([cell])}
      >
        <Hammer size={12} /> {cell.state === 'failed' ? 'Try again' : 'Build'}
      </button>
      <button
        className="btn btn-paper btn-xs"
        title={`Do not send it to ${brief.title} any more`}
        onClick={() => void release([sound.id], brief)}
      >
        Release
      </button>
    </span>
  );
}

function Results({ line, brief, sound }: { line: PackLine; brief: Brief; sound: Sound }) {
  return (
    <section aria-label="Files">
      <h3 className="text-soft mb-1 text-xs font-semibold">Files</h3>
      <Outputs line={line} brief={brief} sound={sound} />
    </section>
  );
}

/** "need a decision" of many is "needs a decision" of one. */
function singular(phrase: string): string {
  return phrase.replace(/^need /, 'needs ').replace(/^fit as they are/, 'fits as it is');
}
