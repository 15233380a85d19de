'use client';

import { CircleX, Download, LoaderCircle, Play } from 'lucide-react';
import { useMemo } from 'react';
import { loadSeconds, links } from '@/core/pack/loading';
import type { BuildDetails, BuiltFile } from '@/wire';
import { size } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';
import { play } from '../../strip/listening';
import { useCue } from '../../strip/useCue';
import { useBuild, useMaking } from '../making';

/** Every file of a build: before → after, how that looks beside the others, and how long it loads. */
export function Files({ build }: { build: BuildDetails }) {
  const most = useMemo(
    () => build.outputs.reduce((top, one) => Math.max(top, one.sourceBytes, one.bytes ?? 0), 1),
    [build],
  );
  return (
    <table className="border-base-300 bg-base-100 w-full table-fixed border text-sm">
      <thead>
        <tr className="bg-base-200 text-soft border-base-300 border-b text-left text-xs">
          <th className="px-3 py-1.5 font-semibold">File</th>
          <th className="w-[20%] px-2 font-semibold">Before and after</th>
          <th className="w-36 px-2 text-right font-semibold">Bytes</th>
          <th className="w-20 px-2 text-right font-semibold">Ratio</th>
          <th className="w-44 px-2 text-right font-semibold whitespace-nowrap">
            Load at {links.join(', ')} Mbit/s
          </th>
          <th className="w-20">
            <span className="sr-only">Hear and have</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {build.outputs.map((file) => (
          <FileLine key={file.outputId} file={file} most={most} />
        ))}
      </tbody>
    </table>
  );
}

function FileLine({ file, most }: { file: BuiltFile; most: number }) {
  const { path, bytes, sourceBytes, state } = file;
  const ratio = bytes === null ? null : sourceBytes / bytes;
  return (
    <tr className="border-base-300 border-b align-middle last:border-0">
      <td className="overflow-hidden px-3 py-1">
        <MiddleCut text={path} />
        {state !== 'done' && <NotDone file={file} />}
      </td>
      <td className="px-2 py-1">
        <Bar value={sourceBytes} most={most} className="bg-secondary/50" />
        <Bar value={bytes ?? 0} most={most} className="bg-primary" />
      </td>
      <td className="px-2 text-right whitespace-nowrap tabular-nums">
        <span className="text-soft">{size(sourceBytes)} → </span>
        {bytes === null ? '?' : <strong>{size(bytes)}</strong>}
      </td>
      <td className="px-2 text-right whitespace-nowrap tabular-nums">
        {ratio === null ? '' : ratio >= 1 ? `÷ ${ratio.toFixed(1)}` : `× ${(1 / ratio).toFixed(1)}`}
      </td>
      <td className="px-2 text-right whitespace-nowrap tabular-nums">
        {bytes !== null &&
          links.map((mbits) => loadSeconds(bytes, mbits).toFixed(2)).join(' · ') + ' s'}
      </td>
      <td className="px-1 text-right whitespace-nowrap">
        {state === 'done' && <Deeds file={file} />}
      </td>
    </tr>
  );
}

function Bar({ value, most, className }: { value: number; most: number; className: string }) {
  return (
    <span
      aria-hidden
      className={`my-px block h-1.5 ${className}`}
      style={{ width: `${(100 * value) / most}%` }}
    />
  );
}

function Deeds({ file }: { file: BuiltFile }) {
  const { sounds } = useProject();
  const cue = useCue();
  const sound = sounds.find(({ id }) => id === file.soundId);
  const name = file.path.split('/').at(-1)!;
  return (
    <>
      {sound && (
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label={`Play ${name}`}
          title="Play it, if it is still what would be built; else its source"
          onClick={() => {
            cue(sound, { key: `output-${file.outputId}` });
            play({ frame: 0, range: null });
          }}
        >
          <Play size={12} fill="currentColor" />
        </button>
      )}
      <a
        className="btn btn-ghost btn-xs btn-square"
        aria-label={`Download ${name}`}
        title="Download"
        href={`/api/outputs/${file.outputId}/file?download`}
        download={name}
      >
        <Download size={13} />
      </a>
    </>
  );
}

/** What is not finished: on its way, or not to be had as it is. */
function NotDone({ file }: { file: BuiltFile }) {
  const isOpen = file.state === 'queued' || file.state === 'running';
  return isOpen ? <OnItsWay file={file} /> : <Missed file={file} />;
}

function OnItsWay({ file: { encodingId, state } }: { file: BuiltFile }) {
  const { progress, cancel, busy } = useMaking(encodingId);
  return (
    <span className="text-primary flex items-center gap-1.5 text-xs">
      <LoaderCircle size={12} aria-hidden className="motion-safe:animate-spin" />
      {state === 'queued' ? 'waiting' : `${Math.round(100 * progress)} %`}
      {cancel && (
        <button className="btn btn-ghost btn-xs" disabled={busy} onClick={() => void cancel()}>
          Cancel
        </button>
      )}
    </span>
  );
}

/** Why it is not there, and trying it again alone. */
function Missed({ file }: { file: BuiltFile }) {
  const { cells } = useProject();
  const { again, busy } = useBuild();
  const cell = cells.find(
    ({ soundId, briefId }) => soundId === file.soundId && briefId === file.briefId,
  );
  return (
    <span className="text-error flex flex-wrap items-center gap-1.5 text-xs">
      <CircleX size={12} aria-hidden />
      {file.state === 'cancelled'
        ? 'cancelled'
        : `${file.error?.message ?? 'failed'} ${file.error?.hint ?? ''}`}
      {cell && (
        <button className="btn btn-paper btn-xs" disabled={busy} onClick={() => void again(cell)}>
          Try again
        </button>
      )}
    </span>
  );
}
