'use client';

import { Play, Trash2, TriangleAlert } from 'lucide-react';
import Link from 'next/link';
import type { PackLine, Sound } from '@/wire';
import { decibels, formatName, formatTime, kilohertz, layout, size } from '../shared/format';
import { useProgress, useProject } from '../shared/project';
import { Thumbnail } from '../waveform/Thumbnail';

/** One line of the list. */
export function SoundRow({
  sound,
  lines,
  isChosen,
  onChoose,
  onPlay,
  onRemove,
}: {
  sound: Sound;
  lines: readonly PackLine[];
  isChosen: boolean;
  onChoose: () => void;
  onPlay: (frame: number) => void;
  onRemove: () => void;
}) {
  const { facts } = sound;
  const cell = `border-base-300 border-t px-2 py-1.5 ${isChosen ? 'bg-primary/10' : 'bg-base-100'}`;
  const number = `${cell} text-right whitespace-nowrap`;
  const destinations = lines.filter(({ assignment }) => assignment.soundId === sound.id);
  return (
    <tr id={`sound-${sound.id}`} aria-selected={isChosen} onClick={onChoose}>
      <td className={`${cell} relative`}>
        {isChosen && <span aria-hidden className="bg-primary absolute inset-y-0 left-0 w-1" />}
        <div className="flex items-center gap-2 pl-1">
          <button
            className="btn btn-ghost btn-sm btn-square"
            aria-label={`Play ${sound.name}`}
            title="Play"
            disabled={!facts}
            onClick={(event) => {
              event.stopPropagation();
              onPlay(0);
            }}
          >
            <Play size={14} fill="currentColor" />
          </button>
          <div className="w-44">
            {facts ? <Thumbnail sound={sound} onPlay={onPlay} /> : <Reading sound={sound} />}
          </div>
        </div>
      </td>
      <td className={`${cell} max-w-64`}>
        <Name sound={sound} />
      </td>
      {facts ? (
        <>
          <td className={cell}>
            {formatName(facts.container, facts.codec)}
            {facts.bitDepth !== null && <span className="text-soft"> {facts.bitDepth}-bit</span>}
            {facts.bitDepth === null && (
              <span className="text-soft"> {Math.round(facts.bitRateKbps)} kbit/s</span>
            )}
          </td>
          <td className={number}>{kilohertz(facts.sampleRateHz)}</td>
          <td className={cell}>{layout(facts.channels)}</td>
          <td className={number} title={`${facts.frames} frames`}>
            {formatTime(facts.seconds)}
          </td>
          <td className={number} title={`${facts.bytes} bytes`}>
            {size(facts.bytes)}
          </td>
          <td className={number}>{decibels(facts.truePeakDbtp)}</td>
          <td className={number}>{facts.lufs === null ? '–' : decibels(facts.lufs)}</td>
        </>
      ) : (
        <td className={`${cell} text-soft`} colSpan={7}>
          {size(sound.bytes)}, being read
        </td>
      )}
      <td className={`${cell} text-soft`}>
        {destinations.map(({ brief }) => brief.title).join(', ') || '—'}
      </td>
      <td className={`${cell} text-right`}>
        <button
          className="btn btn-ghost btn-sm btn-square"
          aria-label={`Take ${sound.name} out`}
          title="Take out (Delete)"
          onClick={(event) => {
            event.stopPropagation();
            onRemove();
          }}
        >
          <Trash2 size={15} />
        </button>
      </td>
    </tr>
  );
}

function Name({ sound }: { sound: Sound }) {
  const { project } = useProject();
  return (
    <>
      <Link
        className="block truncate font-semibold hover:underline"
        href={`/p/${project.id}/shape/${sound.id}`}
        title={`Shape “${sound.name}” (came in as ${sound.fileName})`}
        onClick={(event) => event.stopPropagation()}
      >
        {sound.name}
      </Link>
      {sound.warnings.map((warning) => (
        <p key={warning.code} className="text-warning flex items-start gap-1 text-xs">
          <TriangleAlert size={13} className="mt-0.5 shrink-0" aria-hidden />
          {warning.message}
        </p>
      ))}
      {sound.worries.length > 0 && (
        <ul className="mt-0.5 flex flex-wrap gap-1" aria-label={`Worries about ${sound.name}`}>
          {sound.worries.map(({ code, name, sentence }) => (
            <li
              key={code}
              title={sentence}
              className="border-warning/50 text-warning rounded-sm border px-1 text-xs leading-4"
            >
              {name}
              <span className="sr-only">: {sentence}</span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

function Reading({ sound }: { sound: Sound }) {
  const { jobs } = useProject();
  const job = jobs.find(({ kind, subjectId }) => kind === 'read' && subjectId === sound.id);
  const progress = useProgress(({ byJob }) => (job ? byJob[job.id] : undefined));
  return (
    <progress
      className="progress progress-primary"
      value={progress}
      max={1}
      aria-label={`Reading ${sound.name}`}
    />
  );
}
