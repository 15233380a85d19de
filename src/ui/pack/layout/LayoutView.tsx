'use client';

import { Archive, Download } from 'lucide-react';
import Link from 'next/link';
import type { Brief } from '@/core/brief/schema';
import type { PackOutline, PackPart } from '@/wire';
import { count, plural, size } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useProject } from '../../shared/project';
import { useMakePack, usePacks } from './asking';
import { Fields } from './Fields';
import { Icon } from './Icon';
import { Slots } from './Slots';
import { Texts } from './Texts';
import { Tree } from './Tree';
import { Troubles } from './Troubles';

/** One destination's pack as it would be made now, and everything that is decided about it. */
export function LayoutView({
  brief,
  outline,
  part,
}: {
  brief: Brief;
  outline: PackOutline;
  part: PackPart;
}) {
  const { layout } = part;
  return (
    <>
      <Head brief={brief} outline={outline} part={part} />
      <Troubles outline={outline} />
      <div className="mt-4 grid items-start gap-5 xl:grid-cols-[minmax(0,1fr)_minmax(0,1.25fr)]">
        <div className="min-w-0 space-y-5">
          <Tree files={outline.files} />
          {part.mostTotalBytes !== null && <Room part={part} />}
        </div>
        <div className="min-w-0 space-y-5">
          {part.slots.length > 0 && <Slots brief={brief} part={part} />}
          {layout && (layout.fields?.length || layout.icon || layout.texts?.length) && (
            <div className="flex flex-wrap items-start gap-5">
              <Fields brief={brief} part={part} />
              {layout.icon && <Icon brief={brief} part={part} />}
            </div>
          )}
          {layout?.texts && layout.texts.length > 0 && <Texts brief={brief} />}
          {!layout && (
            <p className="text-soft">
              This brief says nothing of how its files lie together: they lie at the root, each
              under its name. A brief of your own can have slots, an icon and texts beside them.
            </p>
          )}
        </div>
      </div>
    </>
  );
}

function Head({ brief, outline, part }: { brief: Brief; outline: PackOutline; part: PackPart }) {
  const { project } = useProject();
  const { make, busy } = useMakePack();
  const packs = usePacks();
  useKeys({
    p: () => document.querySelector<HTMLElement>('main button[data-make-pack]')?.click(),
  });
  const { newest, toBuild, files, troubles } = outline;
  const isWrong = troubles.some(({ weight }) => weight === 'wrong');
  const isMaking = packs?.some(
    ({ state, briefs }) =>
      (state === 'waiting' || state === 'packing') && briefs.length === 1 && briefs[0] === brief.id,
  );
  const canMake = !isWrong && !newest?.isCurrent;
  const bytes = files.reduce((sum, file) => sum + file.bytes, 0);
  return (
    <header className="flex flex-wrap items-start gap-x-4 gap-y-2">
      <div className="min-w-0 flex-1 basis-80">
        <h2 className="font-serif text-2xl">{brief.title}</h2>
        <p className="text-soft">
          {plural(files.length, 'file')}
          {bytes > 0 && `, ${size(bytes)}`}
          {part.folder === '' ? ', at the root of the pack' : `, in the folder ${part.folder}`}
          {toBuild > 0 && `; ${plural(toBuild, 'file')} to build first`}
        </p>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        {newest && (
          <Link
            className={newest.isCurrent ? 'text-success' : 'text-warning'}
            href={`/p/${project.id}/pack/packs/${newest.id}`}
            prefetch={false}
          >
            {newest.isCurrent
              ? `Pack ${count(newest.id)} is as it would be made now`
              : `Pack ${count(newest.id)} is older than the project`}
          </Link>
        )}
        {newest && (
          <a
            className="btn btn-paper btn-sm"
            href={`/api/packs/${newest.id}/zip`}
            download
            aria-label={`Download pack ${newest.id}`}
          >
            <Download size={15} /> Zip
          </a>
        )}
        <button
          className="btn btn-primary btn-sm"
          disabled={busy || isMaking || !canMake}
          data-make-pack
          title={
            newest?.isCurrent
              ? 'There is nothing other to pack'
              : canMake
                ? 'Builds what is missing, then puts it together'
                : 'First settle what is listed below'
          }
          onClick={() => void make([brief.id])}
        >
          <Archive size={15} />{' '}
          {isMaking ? 'Packing …' : toBuild > 0 ? 'Build and pack' : 'Make the pack'}
        </button>
      </div>
    </header>
  );
}

/** How much of the room of a small device is left. */
function Room({ part }: { part: PackPart }) {
  const most = part.mostTotalBytes!;
  const left = most - part.soundBytes;
  return (
    <section aria-label="Room" className="border-base-300 bg-base-100 border px-4 py-3">
      <p className="flex items-baseline justify-between">
        <span className="font-semibold">
          {left >= 0 ? `${count(left)} bytes are left` : `${count(-left)} bytes too many`}
        </span>
        <span className="text-soft text-xs">of {count(most)}</span>
      </p>
      <div
        className="bg-base-300 mt-2 h-2 overflow-hidden rounded-full"
        role="meter"
        aria-label="Room taken"
        aria-valuemin={0}
        aria-valuemax={most}
        aria-valuenow={Math.min(most, part.soundBytes)}
      >
        <div
          className={`h-full ${left < 0 ? 'bg-error' : 'bg-primary'}`}
          style={{ width: `${Math.min(100, (100 * part.soundBytes) / most)}%` }}
        />
      </div>
    </section>
  );
}
