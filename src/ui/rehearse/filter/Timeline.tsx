'use client';

import { Play, Plus, Square, Trash2 } from 'lucide-react';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { useStore } from 'zustand';
import { triggerIds, triggers, type Trigger } from '@/core/host/filter/choices';
import { performed, type StageEvent } from '@/core/host/filter/stage';
import type { LoadedSound } from '@/core/host/kind';
import { AmountField } from '../../shared/AmountField';
import { plural } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { nameOf, PLAN_SECONDS, type FilterRun } from './run';

const percent = (seconds: number) => `${(100 * seconds) / PLAN_SECONDS}%`;
const toTenths = (seconds: number) =>
  Math.round(Math.min(PLAN_SECONDS, Math.max(0, seconds)) * 10) / 10;
/** Sounds that have a line of their own. */
const MOST_ROWS = 12;
/** More than one can tell apart. */
const MOST_EVENTS = 40;

/** What is to happen when, and what will be heard of it: worked out before it is played. */
export function Timeline({ run, sounds }: { run: FilterRun; sounds: readonly LoadedSound[] }) {
  const { plan, choices, playedFrom } = useStore(run.store);
  const [chosen, setChosen] = useState<number | null>(null);
  const [next, setNext] = useState<Trigger>('tap');
  const isPlaying = playedFrom !== null;
  const { stretches, heardFrom } = performed(sounds, choices, plan, PLAN_SECONDS);
  const running = new Set(stretches.map(({ file }) => file));
  const isFew = sounds.length <= MOST_ROWS;
  const shown = (isFew ? sounds : sounds.filter(({ file }) => running.has(file))).slice(
    0,
    MOST_ROWS,
  );
  const others = sounds.length - shown.length;
  const change = (at: number, event: StageEvent | null) =>
    run.setPlan(
      event ? plan.map((one, i) => (i === at ? event : one)) : plan.filter((_, i) => i !== at),
    );
  const add = () => {
    const last = Math.max(0, ...plan.map(({ at }) => at));
    run.setPlan([...plan, { trigger: next, at: toTenths(last + 2) }]);
    setChosen(plan.length);
  };
  const event = chosen === null ? undefined : plan[chosen];
  return (
    <section aria-label="Timeline" className="border-base-300 bg-base-100 border">
      <header className="border-base-300 flex flex-wrap items-center gap-2 border-b px-4 py-1.5">
        <h2 className="mr-1 font-serif text-lg">Timeline</h2>
        <button
          className="btn btn-primary btn-xs"
          onClick={() => (isPlaying ? run.halt() : run.play())}
        >
          {isPlaying ? <Square size={12} aria-hidden /> : <Play size={12} aria-hidden />}
          {isPlaying ? 'Stop it' : 'Play it through'}
        </button>
        <select
          className="select select-xs w-auto"
          aria-label="What is to happen"
          value={next}
          onChange={({ target }) => setNext(target.value as Trigger)}
        >
          {triggerIds.map((id) => (
            <option key={id} value={id}>
              {triggers[id]}
            </option>
          ))}
        </select>
        <button
          className="btn btn-paper btn-xs"
          disabled={plan.length >= MOST_EVENTS}
          onClick={add}
        >
          <Plus size={12} aria-hidden /> Add it
        </button>
        {event && chosen !== null && (
          <span className="text-soft ml-auto flex items-center gap-1.5 text-xs">
            {labelAt(plan, chosen)} at
            <AmountField
              label="When it happens, in seconds"
              value={event.at}
              min={0}
              max={PLAN_SECONDS}
              className="input-xs w-14"
              onChange={(at) => change(chosen, { ...event, at })}
            />
            s
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label="Take it out of the timeline"
              onClick={() => {
                change(chosen, null);
                setChosen(null);
              }}
            >
              <Trash2 size={13} />
            </button>
          </span>
        )}
      </header>
      <div className="grid grid-cols-[7rem_minmax(0,1fr)] gap-x-3 px-4 pt-1.5 pb-2.5 text-xs">
        <span />
        <Ruler />
        <span className="text-soft self-center">what happens</span>
        <Lane>
          {plan.map((one, i) => (
            <Marker
              key={i}
              event={one}
              label={labelAt(plan, i)}
              isChosen={i === chosen}
              onChoose={() => setChosen(i)}
              onMove={(at) => change(i, { ...one, at })}
              onRemove={() => {
                change(i, null);
                setChosen(null);
              }}
            />
          ))}
          {isPlaying && <Needle from={playedFrom} />}
        </Lane>
        {shown.map(({ file }) => (
          <Row key={file} file={file}>
            {stretches
              .filter((one) => one.file === file)
              .map(({ from, to }) => (
                <Bar key={from} from={from} to={to} heardFrom={heardFrom} />
              ))}
          </Row>
        ))}
        {others > 0 && (
          <span className="text-soft col-span-2 pt-1">
            {plural(others, 'sound')} more, without a line here
          </span>
        )}
      </div>
    </section>
  );
}

function labelAt(plan: readonly StageEvent[], index: number): string {
  const { trigger, at } = plan[index]!;
  const opened = plan
    .filter((one) => one.trigger === 'opened' && one.at <= at)
    .map((one) => one.at);
  const since = Math.max(0, ...opened);
  const earlier = plan.filter(
    (one, i) =>
      one.trigger === 'tap' && one.at >= since && (one.at < at || (one.at === at && i < index)),
  );
  return nameOf(trigger, earlier.length + 1);
}

function Row({ file, children }: { file: string; children: React.ReactNode }) {
  return (
    <>
      <span className="min-w-0 self-center">
        <MiddleCut text={file} />
      </span>
      <div className="border-base-300 relative h-5 border-b">{children}</div>
    </>
  );
}

function Lane({ children }: { children: React.ReactNode }) {
  return <div className="bg-base-200 relative h-7">{children}</div>;
}

function Ruler() {
  return (
    <div aria-hidden className="text-soft relative h-4">
      {Array.from({ length: PLAN_SECONDS + 1 }, (_, second) => (
        <span
          key={second}
          className="absolute -translate-x-1/2 text-[0.65rem]"
          style={{ left: percent(second) }}
        >
          {second % 5 === 0 ? `${second} s` : '·'}
        </span>
      ))}
    </div>
  );
}

/** A stretch in which a sound runs: hollow while nobody hears it. */
function Bar({ from, to, heardFrom }: { from: number; to: number; heardFrom: number | null }) {
  const heard = Math.max(from, Math.min(to, heardFrom ?? Infinity));
  return (
    <>
      {heard > from && (
        <span
          title="runs, and nobody hears it"
          className="border-primary/60 absolute top-1 h-3 border border-dashed"
          style={{ left: percent(from), width: percent(heard - from) }}
        />
      )}
      {to > heard && (
        <span
          className="bg-primary/70 absolute top-1 h-3 rounded-xs"
          title={`heard from ${heard.toFixed(1)} to ${to.toFixed(1)} s`}
          style={{ left: percent(heard), width: percent(to - heard) }}
        />
      )}
    </>
  );
}

function Marker({
  event: { at },
  label,
  isChosen,
  onChoose,
  onMove,
  onRemove,
}: {
  event: StageEvent;
  label: string;
  isChosen: boolean;
  onChoose: () => void;
  onMove: (at: number) => void;
  onRemove: () => void;
}) {
  const held = useRef(false);
  const move = (event: PointerEvent<HTMLButtonElement>) => {
    if (!held.current) return;
    const lane = event.currentTarget.parentElement!.getBoundingClientRect();
    onMove(toTenths(((event.clientX - lane.left) / lane.width) * PLAN_SECONDS));
  };
  return (
    <button
      role="slider"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={PLAN_SECONDS}
      aria-valuenow={at}
      aria-valuetext={`${at} s`}
      title={`${label} at ${at} s; drag it, or ← → and Delete`}
      className={`absolute top-0.5 h-6 touch-none px-1 text-[0.65rem] whitespace-nowrap ${
        isChosen ? 'bg-primary text-primary-content z-10' : 'bg-base-100 border-base-300 border'
      } border-l-primary rounded-r border-l-2`}
      style={{ left: percent(at) }}
      onPointerDown={(event) => {
        held.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
        onChoose();
      }}
      onPointerMove={move}
      onPointerUp={() => (held.current = false)}
      onFocus={onChoose}
      onKeyDown={({ key }) => {
        if (key === 'ArrowLeft') onMove(toTenths(at - 0.1));
        if (key === 'ArrowRight') onMove(toTenths(at + 0.1));
        if (key === 'Delete') onRemove();
      }}
    >
      {label.replace(/^(a|the) /, '')}
    </button>
  );
}

/** Where one is while it is played. */
function Needle({ from }: { from: number }) {
  const [at, setAt] = useState(0);
  useEffect(() => {
    let request = requestAnimationFrame(function look(now) {
      setAt((now - from) / 1_000);
      request = requestAnimationFrame(look);
    });
    return () => cancelAnimationFrame(request);
  }, [from]);
  return (
    <span
      aria-hidden
      className="bg-error absolute inset-y-0 w-px"
      style={{ left: percent(Math.min(PLAN_SECONDS, Math.max(0, at))) }}
    />
  );
}
