'use client';

import { FileInput, FileJson, PencilRuler } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useRef, type RefObject } from 'react';
import { toast } from 'sonner';
import type { Brief } from '@/core/brief/schema';
import { sendFile } from '../../shared/sendFile';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { PackHead } from '../PackHead';
import { BriefDetail } from './BriefDetail';
import { isOwn } from './own';
import { Questions } from './Questions';

/** All briefs, each with what it demands and why; people's own can be edited, shared and compared. */
export function BriefsPage({ briefId }: { briefId: string | null }) {
  const { project, briefs, cells } = useProject();
  const router = useRouter();
  const show = ({ id }: Pick<Brief, 'id'>) => router.push(`/p/${project.id}/pack/briefs/${id}`);
  const shown = briefs.find(({ id }) => id === briefId);
  const counts = new Map<string, number>();
  for (const cell of cells) counts.set(cell.briefId, (counts.get(cell.briefId) ?? 0) + 1);
  return (
    <div className="px-6 py-4">
      <PackHead view="briefs" />
      <div className="grid items-start gap-5 lg:grid-cols-[17rem_minmax(0,1fr)]">
        <div>
          <nav aria-label="Briefs" className="border-base-300 bg-base-100 border">
            <BriefList
              briefs={briefs.filter(isOwn)}
              heading="Your own"
              {...{ counts, briefId, show }}
            />
            <BriefList
              briefs={briefs.filter((brief) => !isOwn(brief))}
              heading="Come with Bijou"
              {...{ counts, briefId, show }}
            />
          </nav>
          <NewBriefs onMade={show} />
        </div>
        {shown ? (
          <BriefDetail key={shown.id} brief={shown} sounds={counts.get(shown.id) ?? 0} />
        ) : (
          <Questions briefs={briefs} onShow={show} />
        )}
      </div>
    </div>
  );
}

function BriefList({
  briefs,
  heading,
  counts,
  briefId,
  show,
}: {
  briefs: readonly Brief[];
  heading: string;
  counts: ReadonlyMap<string, number>;
  briefId: string | null;
  show: (brief: Brief) => void;
}) {
  if (briefs.length === 0) return null;
  return (
    <>
      <h2 className="text-soft bg-base-200 border-base-300 border-b px-3 py-1 text-xs font-semibold">
        {heading}
      </h2>
      <ul>
        {briefs.map((brief) => (
          <li key={brief.id}>
            <button
              className="hover:bg-base-200 aria-[current]:bg-base-200 flex w-full items-baseline gap-2 px-3 py-1.5 text-left aria-[current]:font-semibold"
              aria-current={brief.id === briefId ? 'true' : undefined}
              title={brief.purpose}
              onClick={() => show(brief)}
            >
              <span className="min-w-0 flex-1 truncate">{brief.title}</span>
              <span className="text-soft text-xs tabular-nums">{counts.get(brief.id) ?? ''}</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** Ways to come to a brief of one's own: from a file that works, or from somebody else. */
function NewBriefs({ onMade }: { onMade: (brief: Pick<Brief, 'id'>) => void }) {
  const { project } = useProject();
  const { run, busy } = useAction();
  const sound = useRef<HTMLInputElement>(null);
  const text = useRef<HTMLInputElement>(null);
  const like = (file: File) =>
    run(async () => onMade(await sendFile<Brief>(`projects/${project.id}/briefs/like`, file)));
  const bringIn = (file: File) =>
    run(async () => {
      const path = `projects/${project.id}/briefs/file`;
      const made = await sendFile<{ brief: Brief; unknown: string[] }>(path, file);
      if (made.unknown.length > 0) {
        toast.message('It was written by a newer Bijou.', {
          description: `Kept, and without effect here: ${made.unknown.join(', ')}.`,
        });
      }
      onMade(made.brief);
    });
  return (
    <div className="mt-3 space-y-1.5">
      <DropButton
        label="Begin from a file that works"
        hint="Drop a finished file of which you know that it is taken: what it is becomes what is demanded."
        busy={busy}
        field={sound}
        onFile={like}
      >
        <PencilRuler size={15} /> Begin from a file that works
      </DropButton>
      <DropButton
        label="Bring in a brief"
        hint="The JSON file of a brief that somebody has shared."
        accept=".json"
        busy={busy}
        field={text}
        onFile={bringIn}
      >
        <FileJson size={15} /> Bring in a brief
      </DropButton>
      <p className="text-soft flex gap-1.5 px-1 pt-1 text-xs">
        <FileInput size={14} aria-hidden className="mt-0.5 shrink-0" />
        Every other brief can be copied, and the copy changed.
      </p>
    </div>
  );
}

function DropButton({
  label,
  hint,
  accept,
  busy,
  field,
  onFile,
  children,
}: {
  label: string;
  hint: string;
  accept?: string;
  busy: boolean;
  field: RefObject<HTMLInputElement | null>;
  onFile: (file: File) => void;
  children: React.ReactNode;
}) {
  return (
    <>
      <button
        className="btn btn-paper btn-sm w-full justify-start"
        title={hint}
        disabled={busy}
        onClick={() => field.current?.click()}
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          const [file] = event.dataTransfer.files;
          if (!file) return;
          event.preventDefault();
          event.stopPropagation();
          onFile(file);
        }}
      >
        {children}
      </button>
      <input
        ref={field}
        type="file"
        className="hidden"
        aria-label={label}
        accept={accept}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) onFile(file);
          event.target.value = '';
        }}
      />
    </>
  );
}
