'use client';

import { Maximize2, Play, ZoomIn, ZoomOut } from 'lucide-react';
import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { Sound } from '@/wire';
import { call } from '../shared/api';
import { count, decibels, formatName, formatTime, kilohertz, layout, size } from '../shared/format';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { cue, play, useListening } from '../strip/listening';
import { versionsOf } from '../strip/versions';
import type { View } from '../waveform/peaks';
import { keptSpan, withSpan, type Span } from './keep';
import { Facts } from './Facts';
import { Overview } from './Overview';
import { sourceFrame } from './PlayHead';
import { TimeField } from './TimeField';
import { zoom } from './view';
import { Waveform } from './Waveform';

/** Shows one sound from the whole of it to single frames, and marks what is kept of it. */
export function Editor({ sound }: { sound: Sound }) {
  const { lines } = useProject();
  const { run } = useAction();
  const frames = sound.facts?.frames ?? 0;
  const rateHz = sound.facts?.sampleRateHz ?? 1;
  const [view, setView] = useState<View>({ start: 0, end: frames });
  const stored = keptSpan(sound);
  // What is being dragged, or on its way to the server.
  const [draft, setDraft] = useState<Span | null>(null);
  const span = draft ?? stored;

  useEffect(() => {
    cue(sound.name, versionsOf(sound, lines));
  }, [sound, lines]);

  const saving = useRef(Promise.resolve());
  const save = (next: Span) => {
    setDraft(next);
    const recipe = withSpan(sound.recipe, next, frames);
    // One after the other: what was typed last is stored last, and shown until it is.
    saving.current = saving.current.then(async () => {
      await run(() => call(`sounds/${sound.id}`, 'PATCH', { recipe }));
      setDraft((current) => (current === next ? null : current));
    });
  };
  const seek = (frame: number) => {
    cue(sound.name, versionsOf(sound, lines), `source-${sound.id}`);
    if (useListening.getState().playing) play({ frame, range: null });
    else useListening.setState({ current: `source-${sound.id}`, range: null, frame });
  };
  const playSpan = () => {
    cue(sound.name, versionsOf(sound, lines), `source-${sound.id}`);
    useListening.setState({ current: `source-${sound.id}` });
    play({ frame: span.start, range: span });
  };
  const here = () => sourceFrame(sound) ?? Math.round((view.start + view.end) / 2);
  const closer = (factor: number) => {
    const at = here();
    const inView = at >= view.start && at < view.end;
    setView(zoom(view, frames, factor, inView ? at : (view.start + view.end) / 2));
  };
  const whole = () => setView({ start: 0, end: frames });
  const setStart = (start: number) => save({ start: Math.min(start, span.end - 1), end: span.end });
  const setEnd = (end: number) => save({ start: span.start, end: Math.max(end, span.start + 1) });

  useHotkeys('equal, shift+equal, plus, add', () => closer(0.5), [view, sound]);
  useHotkeys('minus, subtract', () => closer(2), [view, sound]);
  useHotkeys('0', whole, [frames]);
  useHotkeys('home', () => seek(0), [sound, lines]);
  useHotkeys('end', () => seek(frames - 1), [sound, lines]);
  useHotkeys('bracketleft', () => setStart(here()), [span, sound]);
  useHotkeys('bracketright', () => setEnd(here()), [span, sound]);

  return (
    <>
      <FactsLine sound={sound} />
      <div className="mt-3">
        <Overview sound={sound} view={view} span={span} onView={setView} />
      </div>
      <div className="mt-2">
        <Waveform
          sound={sound}
          view={view}
          span={span}
          onView={setView}
          onSpan={setDraft}
          onSpanDone={save}
          onSeek={seek}
        />
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-1">
        <Tool label="Closer (+)" onClick={() => closer(0.5)} icon={<ZoomIn size={16} />} />
        <Tool label="Farther (−)" onClick={() => closer(2)} icon={<ZoomOut size={16} />} />
        <Tool label="Whole sound (0)" onClick={whole} icon={<Maximize2 size={15} />} />
        <span className="text-soft ml-2 text-xs">{viewText(view, rateHz)}</span>
        <span className="text-soft ml-auto text-xs">
          Drag over the waveform to mark the part to use; the wheel goes closer.
        </span>
      </div>
      <section
        aria-label="Kept part"
        className="border-base-300 mt-4 flex flex-wrap items-start gap-x-6 gap-y-3 border-t pt-4"
      >
        <TimeField
          label="Start"
          frame={span.start}
          rateHz={rateHz}
          problem={(frame) => (frame < span.end ? null : 'The start must lie before the end.')}
          onChange={setStart}
        />
        <TimeField
          label="End"
          frame={span.end}
          rateHz={rateHz}
          problem={(frame) => endProblem(frame, span, frames, rateHz)}
          onChange={setEnd}
        />
        <TimeField
          label="Length"
          frame={span.end - span.start}
          rateHz={rateHz}
          problem={(length) =>
            length === 0
              ? 'A length of zero leaves nothing.'
              : endProblem(span.start + length, span, frames, rateHz)
          }
          onChange={(length) => setEnd(span.start + length)}
        />
        <div className="flex flex-wrap gap-2 pt-5">
          <button className="btn btn-primary btn-sm" onClick={playSpan}>
            <Play size={14} fill="currentColor" /> Play the kept part
          </button>
          <button
            className="btn btn-paper btn-sm"
            disabled={span.start === 0 && span.end === frames}
            onClick={() => save({ start: 0, end: frames })}
          >
            Keep all of it
          </button>
        </div>
        <Effect sound={sound} span={span} />
      </section>
      <Facts sound={sound} />
    </>
  );
}

/** What the picture shows: times, or frames where times would all look alike. */
function viewText({ start, end }: View, rateHz: number): string {
  const place = (frame: number) =>
    end - start < rateHz / 10 ? `frame ${count(frame)}` : formatTime(frame / rateHz);
  return `showing ${place(start)} to ${place(end)}, ${count(end - start)} frames`;
}

function endProblem(end: number, span: Span, frames: number, rateHz: number): string | null {
  if (end <= span.start) return 'The end must lie behind the start.';
  return end <= frames ? null : `The sound ends at ${formatTime(frames / rateHz)}.`;
}

function Tool({
  label,
  onClick,
  icon,
}: {
  label: string;
  onClick: () => void;
  icon: React.ReactNode;
}) {
  return (
    <button
      className="btn btn-ghost btn-sm btn-square"
      aria-label={label}
      title={label}
      onClick={onClick}
    >
      {icon}
    </button>
  );
}

/** What the sound is, in one line; everything else that was measured stands in `Facts`. */
function FactsLine({ sound }: { sound: Sound }) {
  const { facts } = sound;
  if (!facts) return null;
  const parts = [
    formatName(facts.container, facts.codec) +
      (facts.bitDepth === null ? '' : ` ${facts.bitDepth}-bit`),
    kilohertz(facts.sampleRateHz),
    layout(facts.channels),
    `${formatTime(facts.seconds)} (${count(facts.frames)} frames)`,
    size(facts.bytes),
    `peak ${decibels(facts.peakDbfs)} dBFS`,
    `RMS ${decibels(facts.rmsDbfs)} dBFS`,
  ];
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-1">
      {parts.map((part) => (
        <li key={part}>{part}</li>
      ))}
    </ul>
  );
}

/** What the kept part changes, before → after, and where to go from here. */
function Effect({ sound, span }: { sound: Sound; span: Span }) {
  const { project } = useProject();
  const { facts } = sound;
  if (!facts) return null;
  const share = (span.end - span.start) / facts.frames;
  return (
    <div className="ml-auto pt-4 text-right">
      <p>
        {formatTime(facts.seconds)} →{' '}
        <strong>{formatTime((span.end - span.start) / facts.sampleRateHz)}</strong>
        <span className="text-soft"> ({(share * 100).toFixed(1)} % of the sound)</span>
      </p>
      <Link className="link link-primary" href={`/p/${project.id}/pack#sound-${sound.id}`}>
        Choose where it goes
      </Link>
    </div>
  );
}
