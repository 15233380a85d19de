'use client';

import { Circle, Mic, MicOff, Play, Square } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { MOST_TAKE_SECONDS } from '@/player/host/recorder';
import { takeOf, type Take } from '@/player/host/take';
import { decibels, formatTime } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import type { Rehearsal } from '../rehearsing';
import { useAt } from '../useRehearsal';
import type { FilterRun } from './run';

/** A take is played under a name that no file of a pack can have. */
const TAKE = '/take';

/** Filming the filter: what ends up in the film hangs on the microphone, and is heard. */
export function Takes({ rehearsal, run }: { rehearsal: Rehearsal; run: FilterRun }) {
  const [isMicrophoneOn, setMicrophone] = useState(true);
  const [take, setTake] = useState<Take | null>(null);
  const [isRecording, setRecording] = useState(false);
  const end = useRef<(() => Promise<void>) | null>(null);
  const isHeard = useAt(rehearsal, (state) => state.sounding.has(TAKE));
  const begin = async () => {
    await rehearsal.wake();
    const finish = await rehearsal.player?.record().catch(() => undefined);
    if (!finish) {
      toast.error('Nothing can be recorded here.', {
        description: 'This browser gives no device for sound.',
      });
      return;
    }
    setRecording(true);
    const timer = setTimeout(() => void end.current?.(), MOST_TAKE_SECONDS * 1_000);
    end.current = async () => {
      end.current = null;
      clearTimeout(timer);
      setRecording(false);
      rehearsal.stopAll(0.1);
      const made = await takeOf(finish(), isMicrophoneOn);
      setTake(made);
      rehearsal.player?.put(TAKE, made);
    };
  };
  // A take is heard whether the filter is muted or not; behind it that counts again.
  useEffect(() => {
    if (!isHeard) run.mute();
  }, [isHeard, run]);
  const record = () => void (isRecording ? end.current?.() : begin());
  useKeys({ r: record });
  const listen = () => {
    if (isHeard) return rehearsal.stopAll(0.05);
    rehearsal.stopAll();
    rehearsal.setMuted(false);
    void rehearsal.start(TAKE);
  };
  return (
    <section aria-label="A take" className="border-base-300 bg-base-100 border px-4 py-2">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-1 font-serif text-lg">A take</h2>
        <button
          className={`btn btn-xs ${isRecording ? 'btn-error' : 'btn-paper'}`}
          title="Film the filter (R)"
          onClick={record}
        >
          {isRecording ? (
            <Square size={12} aria-hidden />
          ) : (
            <Circle size={12} aria-hidden className="text-error" fill="currentColor" />
          )}
          {isRecording ? 'End the take' : 'Record a take'}
        </button>
        <button
          className="btn btn-paper btn-xs aria-pressed:border-primary aria-pressed:text-primary"
          aria-pressed={isMicrophoneOn}
          disabled={isRecording}
          onClick={() => setMicrophone(!isMicrophoneOn)}
        >
          {isMicrophoneOn ? <Mic size={12} aria-hidden /> : <MicOff size={12} aria-hidden />}
          Microphone {isMicrophoneOn ? 'on' : 'off'}
        </button>
        {take && (
          <button className="btn btn-paper btn-xs" onClick={listen}>
            {isHeard ? <Square size={12} aria-hidden /> : <Play size={12} aria-hidden />}
            {isHeard ? 'Stop the take' : `Hear the take, ${formatTime(take.seconds, 1)}`}
          </button>
        )}
      </div>
      <p className="text-soft mt-1 text-xs">
        {isMicrophoneOn
          ? 'In it: the voice (a synthetic one), and of the filter what the microphone hears of the phone’s own loudspeaker.'
          : 'In it: the filter’s sounds as they are, and no voice.'}
      </p>
      {take && <p className="mt-1 text-xs">{lossOf(take)}</p>}
    </section>
  );
}

/** What has become of the filter's sounds on their way into the film. */
function lossOf({ played, kept, isMicrophoneOn }: Take): string {
  if (played === null) return 'Nothing of the filter sounded while it was filmed.';
  if (kept === null) {
    return 'Nothing of the filter is in the film: it was muted, and the microphone heard none of it.';
  }
  const less = played - kept;
  if (!isMicrophoneOn || less < 0.5) {
    return `The filter is in the film as loud as it played: ${decibels(kept)} dBFS on average.`;
  }
  return (
    `Of the filter ${decibels(kept)} dBFS are left in the film, ${decibels(less)} dB less than it played, ` +
    'and nothing below the band of the phone’s loudspeaker.'
  );
}
