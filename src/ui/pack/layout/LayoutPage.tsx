'use client';

import { Circle, CircleAlert, CircleCheck, Hammer } from 'lucide-react';
import Link from 'next/link';
import type { Brief } from '@/core/brief/schema';
import type { PackOutline } from '@/wire';
import { plural } from '../../shared/format';
import { useProject } from '../../shared/project';
import { Calls } from '../calls/Calls';
import { Mending } from '../calls/Mending';
import { PackHead } from '../PackHead';
import { useOutline } from './asking';
import { LayoutView } from './LayoutView';

const views = { '': 'Layout', calls: 'Calls', mend: 'Mend an index' } as const;
type View = keyof typeof views;

/** How the pack of each destination is laid out: what lies where, what fills the slots, what lies beside it. */
export function LayoutPage({ briefId, view }: { briefId: string | null; view: string }) {
  const { briefs, cells } = useProject();
  const sent = new Set(cells.map((cell) => cell.briefId));
  const listed = briefs.filter(({ id }) => sent.has(id));
  const shown =
    briefs.find(({ id }) => id === briefId) ?? listed.find(({ layout }) => layout) ?? listed[0];
  return (
    <div className="px-6 py-4">
      <PackHead view="layout" />
      {!shown && (
        <p className="text-soft py-10 text-center">
          Nothing goes to a destination yet. Choose some in the matrix.
        </p>
      )}
      {shown && (
        <div className="grid items-start gap-5 lg:grid-cols-[15rem_minmax(0,1fr)]">
          <nav
            aria-label="Destinations"
            className="border-base-300 bg-base-100 max-h-[75vh] overflow-y-auto border"
          >
            <ul>
              {listed.map((brief) => (
                <Destination key={brief.id} brief={brief} isShown={brief.id === shown.id} />
              ))}
            </ul>
          </nav>
          <Part brief={shown} view={view in views ? (view as View) : ''} />
        </div>
      )}
    </div>
  );
}

/** Destinations that get more are laid out only when they are looked at. */
const MOST_AT_ONCE = 300;

function Destination({ brief, isShown }: { brief: Brief; isShown: boolean }) {
  const { project, cells } = useProject();
  const count = cells.filter(({ briefId }) => briefId === brief.id).length;
  const outline = useOutline(isShown || count <= MOST_AT_ONCE ? [brief.id] : []);
  const wrong = outline?.troubles.filter(({ weight }) => weight === 'wrong').length;
  const { Sign, said } = statusOf(outline, wrong, count);
  return (
    <li className="border-base-300 border-b last:border-0">
      <Link
        href={`/p/${project.id}/pack/layout/${brief.id}`}
        prefetch={false}
        aria-current={isShown ? 'page' : undefined}
        className="hover:bg-base-200 aria-[current]:bg-base-200 flex items-baseline gap-2 px-3 py-2 aria-[current]:font-semibold"
      >
        <span className="min-w-0 flex-1">{brief.title}</span>
        <span
          className={`flex items-center gap-1 text-xs font-normal ${wrong ? 'text-warning' : 'text-soft'}`}
        >
          <Sign size={12} aria-hidden /> {said}
        </span>
      </Link>
    </li>
  );
}

function statusOf(outline: PackOutline | undefined, wrong = 0, sounds: number) {
  if (!outline) return { Sign: Circle, said: plural(sounds, 'sound') };
  if (wrong > 0) return { Sign: CircleAlert, said: `${wrong} to settle` };
  if (outline.toBuild > 0) return { Sign: Hammer, said: `${outline.toBuild} to build` };
  return { Sign: CircleCheck, said: 'right' };
}

function Part({ brief, view }: { brief: Brief; view: View }) {
  const { project } = useProject();
  const outline = useOutline([brief.id]);
  const part = outline?.parts[0];
  if (!outline || !part) return <p className="text-soft py-6">Laying it out …</p>;
  const shown = part.usesCalls ? view : '';
  return (
    <article aria-label={`Pack of ${brief.title}`} className="min-w-0">
      {part.usesCalls && (
        <nav aria-label="Views of the layout" className="mb-3 flex gap-1.5">
          {Object.entries(views).map(([path, title]) => (
            <Link
              key={path}
              href={`/p/${project.id}/pack/layout/${brief.id}${path === '' ? '' : `/${path}`}`}
              prefetch={false}
              aria-current={path === shown ? 'page' : undefined}
              className="btn btn-paper btn-xs aria-[current]:border-primary aria-[current]:text-primary"
            >
              {title}
            </Link>
          ))}
        </nav>
      )}
      {shown === '' && <LayoutView brief={brief} outline={outline} part={part} />}
      {shown === 'calls' && (
        <Calls key={brief.id} brief={brief} part={part} troubles={outline.troubles} />
      )}
      {shown === 'mend' && <Mending brief={brief} />}
    </article>
  );
}
