'use client';

import { Download, FolderDown, Play, Square } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { changeSentence } from '@/core/oneOff/change';
import type { OneOffFile, OneOffSet, Sound } from '@/wire';
import { call } from '../shared/api';
import { count, plural, size } from '../shared/format';
import { MiddleCut } from '../shared/MiddleCut';
import { useProject } from '../shared/project';
import { SendTo } from '../shared/SendTo';
import { useAction } from '../shared/useAction';
import { isOpen, useConversion, useFormats } from './api';
import { chooseAgain, closeConvert, useConvert } from './convert';
import { canWriteFolders, writeIntoFolder } from './folder';
import { hear, useHeardOf } from './hear';
import { KeepAsBrief } from './KeepAsBrief';
import { ratioText, wishText } from './words';

/** What has come of a conversion: each file heard against its sound, and taken home. */
export function Results({ id }: { id: number }) {
  const set = useConversion(id);
  const formats = useFormats();
  const { sounds } = useProject();
  const { run, busy } = useAction();
  const { ids, since } = useConvert();
  if (!set) return <p className="text-soft mt-4">One moment …</p>;
  const bySound = new Map(sounds.map((sound) => [sound.id, sound]));
  const done = set.files.filter(({ state }) => state === 'done');
  const failed = set.files.filter(({ state }) => state === 'failed');
  const share =
    set.files.reduce((sum, { state, progress }) => sum + (state === 'done' ? 1 : progress), 0) /
    set.files.length;
  return (
    <div className="mt-2 space-y-3">
      <p className="text-soft text-xs">{wishText(set.wish, formats)}</p>
      <div className="flex flex-wrap items-center gap-3" role="status">
        {isOpen(set) ? (
          <>
            <progress
              className="progress progress-primary w-48"
              value={share}
              max={1}
              aria-label="Converted"
            />
            <span>
              {count(done.length)} of {plural(set.files.length, 'file')}
            </span>
            <button
              className="btn btn-ghost btn-xs"
              disabled={busy}
              onClick={() => void run(() => call(`one-offs/${id}`, 'DELETE'))}
            >
              Stop
            </button>
          </>
        ) : (
          <Totals done={done} failed={failed.length} />
        )}
      </div>
      <ul
        className="border-base-300 max-h-80 overflow-y-auto border-t"
        aria-label="Converted files"
      >
        {set.files.map((file) => (
          <li key={file.id} className="border-base-300 border-b px-1 py-1.5">
            <OneFile file={file} sound={bySound.get(file.soundId)} isBare={!!set.wish.isBare} />
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-2">
        <Home set={set} done={done} />
        <KeepAsBrief
          ids={set.files.map(({ soundId }) => soundId)}
          wish={set.wish}
          suggestion={formats.find(({ id: one }) => one === set.wish.writer)?.name ?? ''}
        />
        <SendTo
          soundIds={set.files.map(({ soundId }) => soundId)}
          face="Build for a destination…"
          className="btn btn-ghost btn-sm"
        />
        <span className="ml-auto flex gap-2">
          <button
            className="btn btn-ghost btn-sm"
            onClick={() => {
              // Those that were converted, where the sheet was opened to look at them.
              if (ids.length === 0 && since === null) {
                useConvert.setState({ ids: set.files.map(({ soundId }) => soundId) });
              }
              chooseAgain();
            }}
          >
            Again…
          </button>
          <button className="btn btn-paper btn-sm" onClick={closeConvert}>
            Close
          </button>
        </span>
      </div>
    </div>
  );
}

function Totals({ done, failed }: { done: readonly OneOffFile[]; failed: number }) {
  const before = done.reduce((sum, { sourceBytes }) => sum + sourceBytes, 0);
  const after = done.reduce((sum, { facts }) => sum + (facts?.bytes ?? 0), 0);
  return (
    <p>
      {plural(done.length, 'file')}: {size(before)} → <strong>{size(after)}</strong>{' '}
      <span className="text-soft">{ratioText(before, after)}</span>
      {failed > 0 && <span className="text-error"> {plural(failed, 'file')} failed.</span>}
    </p>
  );
}

/** One file, all of them, or into a folder. */
function Home({ set, done }: { set: OneOffSet; done: readonly OneOffFile[] }) {
  const [isWriting, setWriting] = useState(false);
  if (done.length === 0) return null;
  const [only] = done;
  const write = async () => {
    setWriting(true);
    try {
      const written = await writeIntoFolder(done);
      if (written !== null)
        toast.success(`${plural(written.files, 'file')} written into “${written.folder}”.`);
    } catch (error) {
      toast.error('Not everything could be written into that folder.', {
        description: error instanceof Error ? error.message : undefined,
      });
    } finally {
      setWriting(false);
    }
  };
  return (
    <>
      {done.length === 1 ? (
        <a
          className="btn btn-primary btn-sm"
          href={`/api/converted/${only!.id}/file?download`}
          download={only!.name}
        >
          <Download size={15} aria-hidden /> Download
        </a>
      ) : (
        <a className="btn btn-primary btn-sm" href={`/api/one-offs/${set.id}/zip`} download>
          <Download size={15} aria-hidden /> Download all {count(done.length)}
        </a>
      )}
      {canWriteFolders() && (
        <button className="btn btn-paper btn-sm" disabled={isWriting} onClick={() => void write()}>
          <FolderDown size={15} aria-hidden /> Into a folder…
        </button>
      )}
    </>
  );
}

function OneFile({
  file,
  sound,
  isBare,
}: {
  file: OneOffFile;
  sound: Sound | undefined;
  isBare: boolean;
}) {
  const { name, state, facts, error, sourceBytes, progress } = file;
  return (
    <>
      <div className="flex items-center gap-3">
        <MiddleCut text={name} className="w-52 shrink-0 font-semibold" />
        {facts ? (
          <>
            <span className="min-w-0 flex-1 whitespace-nowrap">
              {size(sourceBytes)} → <strong>{size(facts.bytes)}</strong>{' '}
              <span className="text-soft">{ratioText(sourceBytes, facts.bytes)}</span>
            </span>
            {sound && <Heard file={file} sound={sound} isBare={isBare} />}
            <a
              className="btn btn-ghost btn-sm btn-square"
              aria-label={`Download ${name}`}
              title={`Download ${name}`}
              href={`/api/converted/${file.id}/file?download`}
              download={name}
            >
              <Download size={15} />
            </a>
          </>
        ) : error ? (
          <span className="text-error text-xs">
            {error.message} {error.hint}
          </span>
        ) : (
          <span className="text-soft text-xs">{stateText(state, progress)}</span>
        )}
      </div>
      {[...file.changes.map(changeSentence), ...file.warnings].map((sentence) => (
        <p key={sentence} className="text-soft text-xs">
          {sentence}
        </p>
      ))}
    </>
  );
}

function stateText(state: OneOffFile['state'], progress: number): string {
  if (state === 'cancelled') return 'stopped';
  return state === 'queued' ? 'waiting' : `${Math.round(progress * 100)} %`;
}

/** The sound and its result, to be compared by ear at the same place. */
function Heard({ file, sound, isBare }: { file: OneOffFile; sound: Sound; isBare: boolean }) {
  const heard = useHeardOf(sound, file);
  const button = (isResult: boolean, label: string) => {
    const isOn = heard === (isResult ? 'result' : 'sound');
    return (
      <button
        className={`btn btn-xs ${isOn ? 'btn-primary' : 'btn-paper'}`}
        aria-label={`${isOn ? 'Stop' : 'Hear'} ${isResult ? file.name : `${sound.name} before`}`}
        aria-pressed={isOn}
        onClick={() => hear(sound, file, isBare, isResult)}
      >
        {isOn ? <Square size={11} fill="currentColor" /> : <Play size={11} fill="currentColor" />}
        {label}
      </button>
    );
  };
  return (
    <span className="flex gap-1">
      {button(false, 'before')}
      {button(true, 'after')}
    </span>
  );
}
