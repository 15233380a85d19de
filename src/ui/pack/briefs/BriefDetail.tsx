'use client';

import { Copy, Download, Pencil, Trash2 } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Brief } from '@/core/brief/schema';
import type { BriefDetails } from '@/wire';
import { call } from '../../shared/api';
import { plural } from '../../shared/format';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { Doctor } from '../doctor/Doctor';
import { MissingLines } from '../MissingLines';
import { DemandTable } from './DemandTable';
import { Differences } from './Differences';
import { Editor } from './editor/Editor';
import { isOwn } from './own';

/** One brief: who asks for it and why, everything that it demands, and what can be done with it. */
export function BriefDetail({ brief, sounds }: { brief: Brief; sounds: number }) {
  const { project, briefs } = useProject();
  const [beside, setBeside] = useState('');
  const [isEditing, setEditing] = useState(false);
  const { data } = useQuery({
    queryKey: ['brief', project.id, brief.id, brief.version, beside],
    queryFn: () =>
      call<BriefDetails>(
        `projects/${project.id}/briefs/${brief.id}${beside === '' ? '' : `?beside=${beside}`}`,
      ),
    placeholderData: (before) => before,
  });
  if (isEditing && data) {
    return <Editor text={data.text} onDone={() => setEditing(false)} />;
  }
  return (
    <article aria-label={brief.title} className="border-base-300 bg-base-100 min-w-0 border p-5">
      <header className="flex flex-wrap items-start gap-x-4 gap-y-2">
        <div className="min-w-0 flex-1 basis-80">
          <h2 className="font-serif text-2xl">{brief.title}</h2>
          <p className="text-soft text-xs">
            version {brief.version} · {brief.id} · {plural(sounds, 'sound')}{' '}
            {sounds === 1 ? 'goes' : 'go'} there
          </p>
        </div>
        <Deeds brief={brief} sounds={sounds} onEdit={() => setEditing(true)} />
      </header>
      <p className="mt-2">{brief.purpose}</p>
      {brief.about && <p className="mt-2 max-w-prose leading-relaxed">{brief.about}</p>}
      {brief.notes.length > 0 && (
        <ul className="text-soft mt-2 max-w-prose list-disc pl-5">
          {brief.notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
      <div className="mt-2">
        <MissingLines brief={brief} />
      </div>
      <div className="mt-4 mb-1 flex flex-wrap items-center gap-2">
        <h3 className="font-serif text-lg">What it demands</h3>
        <label className="text-soft ml-auto flex items-center gap-2 text-xs">
          Compare with
          <select
            className="select select-xs w-48"
            value={beside}
            onChange={(event) => setBeside(event.target.value)}
          >
            <option value="">nothing</option>
            {briefs
              .filter(({ id }) => id !== brief.id)
              .map(({ id, title }) => (
                <option key={id} value={id}>
                  {title}
                </option>
              ))}
          </select>
        </label>
      </div>
      {data && beside !== '' ? (
        <Differences
          pairs={data.differences}
          here={brief.title}
          there={briefs.find(({ id }) => id === beside)?.title ?? beside}
        />
      ) : (
        data && <DemandTable demands={data.demands} isMany={brief.files.length > 1} />
      )}
      <div className="mt-5">
        <Doctor briefId={brief.id} />
      </div>
    </article>
  );
}

function Deeds({ brief, sounds, onEdit }: { brief: Brief; sounds: number; onEdit: () => void }) {
  const { project } = useProject();
  const { run, busy } = useAction();
  const router = useRouter();
  const path = `projects/${project.id}/briefs/${brief.id}`;
  const page = (id: string) => `/p/${project.id}/pack/briefs${id && `/${id}`}`;
  const own = isOwn(brief);
  return (
    <div className="flex flex-wrap gap-1.5">
      {own && (
        <button className="btn btn-paper btn-sm" onClick={onEdit}>
          <Pencil size={14} /> Edit
        </button>
      )}
      <button
        className="btn btn-paper btn-sm"
        title="Makes one of your own of it, which can be changed"
        disabled={busy}
        onClick={() =>
          run(async () => router.push(page((await call<Brief>(`${path}/copy`, 'POST')).id)))
        }
      >
        <Copy size={14} /> Copy
      </button>
      <a
        className="btn btn-paper btn-sm"
        title="As a file that others can bring in"
        href={`/api/${path}/file`}
        download
      >
        <Download size={14} /> Share
      </a>
      {own && (
        <button
          className="btn btn-paper btn-sm"
          disabled={busy || sounds > 0}
          title={sounds > 0 ? 'Sounds go there: release them first' : `Delete “${brief.title}”`}
          onClick={() =>
            run(async () => {
              await call(path, 'DELETE');
              router.push(page(''));
            })
          }
        >
          <Trash2 size={14} /> Delete
        </button>
      )}
    </div>
  );
}
