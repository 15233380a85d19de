'use client';

import { Play, Repeat, Scale, Square, Volume2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { count, decibels, formatTime } from '../shared/format';
import { MiddleCut } from '../shared/MiddleCut';
import {
  currentVersion,
  peak,
  play,
  position,
  setLoop,
  setMatched,
  setVolume,
  switchTo,
  toggle,
  useListening,
} from './listening';

/** How long the lamp stays lit after a peak. */
const LAMP_HOLD_MS = 1500;

/** The listening strip at the bottom of every station. */
export function Strip() {
  const state = useListening();
  const version = currentVersion(state);
  const { guest } = state;
  const { frame, loudest } = useHeard(state.playing || guest !== null);
  const at = state.playing ? frame : state.frame;
  return (
    <section
      aria-label="Listening"
      className="bg-neutral text-neutral-content flex min-h-14 items-center gap-x-4 gap-y-1 px-6 py-2 max-lg:gap-x-3 max-lg:px-4 max-md:flex-wrap"
      data-playing={state.playing}
      data-frame={at}
      data-peak={loudest.toFixed(4)}
    >
      <button
        className="btn btn-sm btn-square bg-neutral-content text-neutral border-0"
        onClick={toggle}
        disabled={!version && !guest}
        aria-label={state.playing || guest ? 'Stop' : 'Play'}
        title={`${state.playing || guest ? 'Stop' : 'Play'} (Space)`}
      >
        {state.playing || guest ? (
          <Square size={15} fill="currentColor" />
        ) : (
          <Play size={15} fill="currentColor" />
        )}
      </button>
      {guest ? (
        <p className="min-w-0 truncate font-semibold">{guest.title}</p>
      ) : version ? (
        <>
          <div className="min-w-0 max-md:flex-1">
            <MiddleCut text={state.title ?? ''} className="max-w-md font-semibold" />
            <VersionPicker />
          </div>
          <Position at={at} />
        </>
      ) : (
        <p className="opacity-80">Choose a sound to hear it. Space plays and stops it anywhere.</p>
      )}
      <div className="ml-auto flex items-center gap-3">
        {guest === null && <Ways />}
        <label
          className="flex items-center gap-2 max-md:hidden"
          title="Listening level; files are not changed by it"
        >
          <Volume2 size={15} aria-hidden />
          <span className="sr-only">Listening level</span>
          <input
            type="range"
            min={0}
            max={1}
            step={0.01}
            value={state.volume}
            onChange={(event) => setVolume(Number(event.target.value))}
            className="range range-xs w-14 text-neutral-content/70 [--range-thumb:var(--color-neutral)]"
          />
        </label>
        <Lamp loudest={loudest} />
      </div>
    </section>
  );
}

/** How versions of a sound are heard: around, and all as loud. */
function Ways() {
  const state = useListening();
  return (
    <>
      <button
        className="flex items-center gap-1.5 rounded border border-current/40 px-2 py-0.5 text-xs hover:border-current aria-pressed:bg-neutral-content aria-pressed:text-neutral aria-pressed:font-semibold"
        aria-pressed={state.loop}
        onClick={() => setLoop(!state.loop)}
        title="Play around (L)"
      >
        <Repeat size={13} aria-hidden />
        Around
      </button>
      <button
        className="flex items-center gap-1.5 rounded border border-current/40 px-2 py-1 text-xs hover:border-current aria-pressed:bg-neutral-content aria-pressed:text-neutral max-md:hidden"
        aria-pressed={state.isMatched}
        aria-label="Same loudness"
        onClick={() => setMatched(!state.isMatched)}
        title="Same loudness: turn louder versions down to the quietest, so that ears compare sound, not loudness (M)"
      >
        <Scale size={13} aria-hidden />
      </button>
    </>
  );
}

function VersionPicker() {
  const { versions, current } = useListening();
  return (
    <div role="radiogroup" aria-label="Version" className="flex flex-wrap gap-1">
      {versions.map(({ key, label }) => (
        <button
          key={key}
          role="radio"
          aria-checked={key === current}
          onClick={() => switchTo(key)}
          title="Hear this version at the same place (V goes to the next)"
          className={`rounded px-2 py-0.5 text-xs ${
            key === current
              ? 'bg-neutral-content text-neutral font-semibold'
              : 'border border-current/40 hover:border-current'
          }`}
        >
          {label}
        </button>
      ))}
    </div>
  );
}

function Position({ at }: { at: number }) {
  const state = useListening();
  const version = currentVersion(state);
  if (!version) return null;
  const { start, end } = state.range ?? { start: 0, end: version.frames };
  return (
    <div className="flex items-center gap-3">
      <input
        type="range"
        aria-label="Position"
        aria-valuetext={formatTime(at / version.rateHz)}
        className="range range-xs w-24 text-neutral-content/70 [--range-thumb:var(--color-neutral)]"
        min={start}
        max={Math.max(start + 1, end - 1)}
        value={at}
        onChange={(event) => {
          const frame = Number(event.target.value);
          if (state.playing) play({ frame });
          else useListening.setState({ frame });
        }}
      />
      <span className="whitespace-nowrap">
        {formatTime(at / version.rateHz)}
        <span className="opacity-75"> / {formatTime(version.frames / version.rateHz)}</span>
        <span className="ml-2 inline-block min-w-20 text-xs opacity-75 max-lg:hidden">
          frame {count(at)}
        </span>
      </span>
    </div>
  );
}

/** Lights when what is played comes close to full scale, and says how loud it is. */
function Lamp({ loudest }: { loudest: number }) {
  const db = loudest > 0 ? 20 * Math.log10(loudest) : null;
  const hot = db !== null && db > -1;
  return (
    <div
      className="flex w-22 items-center gap-2"
      title="Loudest sample of the last moment; the stone is filled above −1 dBFS"
    >
      <span
        aria-hidden
        className={`gem size-3.5 ${hot ? 'bg-neutral-content' : 'bg-neutral-content/25'}`}
      />
      <span className="text-xs whitespace-nowrap">
        {decibels(db)} dBFS{hot && <span className="sr-only"> close to full scale</span>}
      </span>
    </div>
  );
}

/** Position and loudest sample of what is heard, once a picture. */
function useHeard(playing: boolean) {
  const [heard, setHeard] = useState({ frame: 0, loudest: 0 });
  const held = useRef({ value: 0, until: 0 });
  useEffect(() => {
    if (!playing) {
      held.current = { value: 0, until: 0 };
      setHeard((last) => ({ ...last, loudest: 0 }));
      return;
    }
    let request = 0;
    const look = (now: number) => {
      const loudest = peak();
      if (loudest >= held.current.value || now > held.current.until) {
        held.current = { value: loudest, until: now + LAMP_HOLD_MS };
      }
      setHeard({ frame: position(), loudest: held.current.value });
      request = requestAnimationFrame(look);
    };
    request = requestAnimationFrame(look);
    return () => cancelAnimationFrame(request);
  }, [playing]);
  return heard;
}
