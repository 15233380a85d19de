'use client';

import { Keyboard, Redo2, SunMoon, Undo2 } from 'lucide-react';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import type { Project } from '@/wire';
import { count, plural, size } from '../shared/format';
import { useHistory } from '../shared/history';
import { useProject } from '../shared/project';
import { useHelp } from './help';
import { ProjectMenu } from './ProjectMenu';
import { stations } from './stations';
import { currentTheme, setTheme } from './theme';

export function Header({ projects }: { projects: Project[] }) {
  const state = useProject();
  const kept = state.sounds.filter((sound) => sound.state !== 'refused');
  const bytes = kept.reduce((sum, sound) => sum + sound.bytes, 0);
  return (
    <header className="bg-base-100 border-base-300 flex items-end gap-x-8 gap-y-2 border-b px-6 pt-3 max-lg:gap-x-3 max-lg:px-4 max-md:flex-wrap">
      <div className="min-w-0 shrink pb-2.5">
        <ProjectMenu projects={projects} />
        <p className="text-soft text-xs">
          {state.rest
            ? plural(state.sounds.length + state.rest.count, 'sound')
            : `${plural(kept.length, 'sound')}, ${size(bytes)} as brought in`}
        </p>
      </div>
      <StationNav />
      <div className="mb-2 ml-auto flex items-center gap-1 max-md:absolute max-md:top-3 max-md:right-4">
        <UndoRedo />
        <button
          className="btn btn-ghost btn-sm btn-square"
          aria-label="Keyboard shortcuts"
          title="Keyboard shortcuts (?)"
          onClick={() => useHelp.setState({ open: true })}
        >
          <Keyboard size={17} />
        </button>
        <button
          className="btn btn-ghost btn-sm btn-square"
          aria-label="Change between daylight and lamplight"
          title="Daylight or lamplight"
          onClick={() => setTheme(currentTheme() === 'daylight' ? 'lamplight' : 'daylight')}
        >
          <SunMoon size={17} />
        </button>
      </div>
    </header>
  );
}

/** What would be undone stands in the tips, so that nobody has to guess. */
function UndoRedo() {
  const { undo, redo, back, forward } = useHistory();
  return (
    <>
      <button
        className="btn btn-ghost btn-sm btn-square"
        aria-label={undo ? `Undo: ${undo.title}` : 'Nothing to undo'}
        title={undo ? `Undo: ${undo.title} (Ctrl+Z)` : 'Nothing to undo'}
        disabled={!undo}
        onClick={back}
      >
        <Undo2 size={17} />
      </button>
      <button
        className="btn btn-ghost btn-sm btn-square"
        aria-label={redo ? `Do again: ${redo.title}` : 'Nothing to do again'}
        title={redo ? `Do again: ${redo.title} (Ctrl+Y)` : 'Nothing to do again'}
        disabled={!redo}
        onClick={forward}
      >
        <Redo2 size={17} />
      </button>
    </>
  );
}

function StationNav() {
  const state = useProject();
  const path = usePathname();
  return (
    <nav aria-label="Stations" className="flex max-md:flex-wrap">
      {stations.map((station, i) => {
        const { value, of } = station.count(state);
        const shown = `${count(value)}${station.countsSounds && state.rest ? '+' : ''}`;
        const href = `/p/${state.project.id}/${station.path}`;
        const isHere = path.startsWith(href);
        return (
          <Link
            key={station.path}
            href={href}
            aria-current={isHere ? 'page' : undefined}
            title={`${station.purpose} — ${shown} ${of} (key ${i + 1})`}
            className={`group flex items-center gap-2 border-b-3 px-3 pt-1 pb-2.5 max-lg:gap-1.5 max-lg:px-2 ${
              isHere ? 'border-primary' : 'hover:border-base-300 border-transparent'
            }`}
          >
            <span
              aria-hidden
              className={`gem grid size-5 place-items-center text-[0.65rem] font-semibold ${
                isHere ? 'bg-primary text-primary-content' : 'bg-base-300 text-base-content'
              }`}
            >
              {i + 1}
            </span>
            <span className={isHere ? 'font-semibold' : ''}>{station.name}</span>
            <span className="text-soft text-xs max-lg:sr-only">
              {shown}
              <span className="sr-only"> {of}</span>
            </span>
          </Link>
        );
      })}
    </nav>
  );
}
