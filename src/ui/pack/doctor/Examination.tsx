'use client';

import { Check, CircleX, Play, Square, TriangleAlert } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { unmet } from '@/core/brief/unmet';
import type { Brief } from '@/core/brief/schema';
import type { BriefVerdict, Examined } from '@/wire';
import { call } from '../../shared/api';
import { count, formatName, formatTime, kilohertz, layout, size } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';
import { sendFile } from '../../shared/sendFile';
import { useAction } from '../../shared/useAction';
import { goTo, openCell } from '../matrix/store';

/** What was found in one file: who takes it, and who does not and why. */
export function Examination({
  file,
  found,
  briefId,
}: {
  file: File;
  found: Examined;
  /** Only this one is asked; null for all. */
  briefId: string | null;
}) {
  const { project, briefs } = useProject();
  const { facts, misnamed, warnings } = found;
  const [relabelHz, setRelabelHz] = useState<number | null>(null);
  const asked = found.verdicts.filter((one) => briefId === null || one.briefId === briefId);
  const taking = asked.filter(({ accepted }) => accepted);
  const others = asked
    .filter(({ accepted }) => !accepted)
    .sort((a, b) => unmet(a.findings).length - unmet(b.findings).length);
  const title = (id: string) => briefs.find((brief) => brief.id === id)?.title ?? id;
  return (
    <article aria-label={found.fileName} className="border-base-300 bg-base-100 border">
      <header className="border-base-300 border-b px-4 py-3">
        <h2 className="font-serif text-lg">
          <MiddleCut text={found.fileName} />
        </h2>
        <p className="text-soft">
          {formatName(facts.container, facts.codec)}, {kilohertz(facts.sampleRateHz)},{' '}
          {layout(facts.channels)}, {facts.bitDepth !== null && `${facts.bitDepth}-bit, `}
          {formatTime(facts.seconds)}, {size(facts.bytes)} ({count(facts.bytes)} bytes)
        </p>
        {[misnamed && `${misnamed} It was renamed, not converted.`, ...warnings].map(
          (text) =>
            text && (
              <p key={text} className="text-warning mt-1 flex gap-1.5">
                <TriangleAlert size={15} aria-hidden className="mt-0.5 shrink-0" /> {text}
              </p>
            ),
        )}
        <Readings file={file} found={found} chosenHz={relabelHz} onChoose={setRelabelHz} />
        <p className="mt-1.5 flex flex-wrap items-baseline gap-x-1.5">
          {taking.length === 0 ? (
            <span className="font-semibold">
              {briefId === null
                ? 'Nobody would take it as it is.'
                : 'It would not be taken as it is.'}
            </span>
          ) : (
            <>
              <Check size={15} aria-hidden className="text-success self-center" />
              <span className="font-semibold">Taken as it is by</span>
              {taking.map(({ briefId }, i) => (
                <Link
                  key={briefId}
                  className="link"
                  href={`/p/${project.id}/pack/briefs/${briefId}`}
                  prefetch={false}
                >
                  {title(briefId)}
                  {i < taking.length - 1 && ','}
                </Link>
              ))}
            </>
          )}
        </p>
      </header>
      <ul className="divide-base-300 divide-y">
        {others.map((verdict) => (
          <Rejection
            key={verdict.briefId}
            file={file}
            verdict={verdict}
            title={title(verdict.briefId)}
            relabelHz={relabelHz}
          />
        ))}
      </ul>
    </article>
  );
}

/** Why one destination would reject it, in sentences, and the cure. */
function Rejection({
  file,
  verdict,
  title,
  relabelHz,
}: {
  file: File;
  verdict: BriefVerdict;
  title: Brief['title'];
  relabelHz: number | null;
}) {
  const { project, sounds, cells } = useProject();
  const { run, busy } = useAction();
  const router = useRouter();
  const [curedId, setCuredId] = useState<number | null>(null);
  const isReady = sounds.some(({ id, facts }) => id === curedId && facts !== null);
  const cell = cells.find(
    ({ soundId, briefId }) => soundId === curedId && briefId === verdict.briefId,
  );
  // As soon as it has been read it is built, and shown where it lies.
  useEffect(() => {
    if (!isReady || !cell || curedId === null) return;
    setCuredId(null);
    void run(async () => {
      await call(`projects/${project.id}/builds`, 'POST', { assignments: [cell.id] });
      goTo({ soundId: cell.soundId, briefId: cell.briefId });
      openCell(true);
      router.push(`/p/${project.id}/pack`);
    });
  }, [isReady, cell, curedId, project.id, router, run]);
  const cure = (relabel: number | null) =>
    run(async () => {
      const { id } = await sendFile<{ id: number }>(`projects/${project.id}/doctor/cure`, file, {
        brief: verdict.briefId,
        ...(relabel !== null && { relabel: String(relabel) }),
      });
      setCuredId(id);
    });
  // What is lossy has no depth: that follows from its format.
  const reasons = unmet(verdict.findings).filter(
    ({ requirement, found }) => requirement !== 'bit-depth' || found !== 'none (lossy)',
  );
  const isHopeless = reasons.some(
    ({ verdict: one, requirement }) => one === 'cannot' && requirement !== 'bytes',
  );
  const isWaiting = busy || curedId !== null;
  return (
    <li className="flex flex-wrap items-start gap-x-4 gap-y-1.5 px-4 py-2.5">
      <h3 className="w-44 shrink-0 font-semibold">{title}</h3>
      <ul className="min-w-0 flex-1 basis-80 space-y-0.5">
        {reasons.map(({ requirement, sentence }) => (
          <li key={requirement} className="flex gap-1.5">
            <CircleX size={15} aria-hidden className="text-error mt-0.5 shrink-0" />
            <span>{asRejected(sentence)}</span>
          </li>
        ))}
      </ul>
      <span className="flex shrink-0 flex-wrap justify-end gap-1.5">
        <button
          className="btn btn-paper btn-xs"
          disabled={isWaiting}
          title={
            isHopeless
              ? 'It comes in and is sent there; what cannot be met is for you to change'
              : 'It comes in, is sent there and converted'
          }
          onClick={() => void cure(relabelHz)}
        >
          {isWaiting ? 'Curing …' : isHopeless ? 'Bring it in' : 'Cure it'}
        </button>
      </span>
    </li>
  );
}

/** What would be done about it is said by the cure. */
function asRejected(sentence: string): string {
  return sentence
    .replace(/^Resampled from (.*?) to (.*?): .*$/, 'It has $1; the destination takes $2.')
    .replace(
      /^The one channel is copied to both sides\.$/,
      'It is mono; the destination takes stereo.',
    )
    .replace(/^Both channels are mixed to one.*$/, 'It is stereo; the destination takes mono.')
    .replace(/^Written with (\d+) bits and dither\.$/, 'The destination takes $1 bits.')
    .replace(/^Written with (\d+) bits.*$/, 'It has another depth; the destination takes $1 bits.');
}

/** What a rate may be that is labelled wrong, as a share of the label. */
const FACTORS = [0.5, 1, 2];

/**
 * Readings of one file at several rates, to be heard: whether a voice is too high by an octave an ear knows at once, and
 * nothing else does for sure.
 */
function Readings({
  file,
  found,
  chosenHz,
  onChoose,
}: {
  file: File;
  found: Examined;
  chosenHz: number | null;
  /** null for the rate that it is labelled with. */
  onChoose: (rateHz: number | null) => void;
}) {
  const { rateDoubt, facts } = found;
  const labelledHz = facts.sampleRateHz;
  const rates = new Set(FACTORS.map((factor) => labelledHz * factor));
  if (rateDoubt) rates.add(rateDoubt.likelyHz);
  return (
    <details className="mt-1" open={rateDoubt !== null}>
      <summary
        className={`cursor-pointer text-xs ${rateDoubt ? 'text-warning font-semibold' : 'text-soft'}`}
      >
        {rateDoubt ? rateDoubt.sentence : 'Does it sound too high and fast, or too low and slow?'}
      </summary>
      <ul className="mt-1 flex flex-wrap gap-x-4 gap-y-1.5">
        {[...rates]
          .sort((a, b) => a - b)
          .map((hz) => (
            <li key={hz} className="flex items-center gap-1.5">
              <Reading file={file} speed={hz / labelledHz}>
                Hear it as {kilohertz(hz)}
              </Reading>
              <label className="flex items-center gap-1 text-xs">
                <input
                  type="radio"
                  className="radio radio-xs radio-primary"
                  checked={(chosenHz ?? labelledHz) === hz}
                  onChange={() => onChoose(hz === labelledHz ? null : hz)}
                />
                {hz === labelledHz ? 'as it is labelled' : 'it really is'}
              </label>
            </li>
          ))}
      </ul>
    </details>
  );
}

/** Plays a file that is not in the project, at a speed that takes the pitch along. */
function Reading({
  file,
  speed,
  children,
}: {
  file: File;
  speed: number;
  children: React.ReactNode;
}) {
  const audio = useRef<HTMLAudioElement | null>(null);
  const [isPlaying, setPlaying] = useState(false);
  useEffect(() => () => audio.current?.pause(), []);
  const toggle = () => {
    if (isPlaying) return audio.current?.pause();
    const address = URL.createObjectURL(file);
    const player = new Audio(address);
    player.preservesPitch = false;
    player.playbackRate = speed;
    player.onpause = () => {
      setPlaying(false);
      URL.revokeObjectURL(address);
    };
    audio.current = player;
    void player.play().then(
      () => setPlaying(true),
      () => setPlaying(false),
    );
  };
  return (
    <button className="btn btn-paper btn-xs" onClick={toggle}>
      {isPlaying ? (
        <Square size={11} fill="currentColor" />
      ) : (
        <Play size={11} fill="currentColor" />
      )}{' '}
      {children}
    </button>
  );
}
