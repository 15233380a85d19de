import { BijouError } from '@/core/errors';
import { legalityRefusal } from '@/core/formats/legality';
import { holdsRate } from '@/core/formats/rates';
import { writerById } from '@/core/formats/write';
import { handoverForm, loopFiles, type LoopFile } from '@/core/loop/files';
import { usualListening, usualListeningForm } from '@/core/loop/listening';
import { noMarks, type Stretch } from '@/core/marks';
import { shapeAfter } from '@/core/recipe/recipe';
import { addedFrames, crossfadeRoom, loop as loopStep } from '@/core/recipe/steps/loop';
import type { Recipe, Step } from '@/core/recipe/types';
import { parseTime } from '@/core/time';
import type { Looked } from '../batch/tasks';
import { numberOption, rangeOf, rateOption, wrong } from '../convert/numbers';
import { writerSettings } from '../convert/settings';
import { checkTime, listeningWish, seamWish, type MakeOptions } from './options';
import { meantLoop } from './place';

/** What is made of one file. */
export interface PlannedLoop {
  /** In the frames of the source, or of the unrolled source. */
  loop: Stretch;
  /** What has to be done before the loop can be looked at. */
  before: Recipe;
  /** What the one file gets longer by, so that the repeat carries the tail. */
  addedFrames: number;
  /** Where the tail ends that lies under the repeats, in frames of the source, and what it is changed by. */
  tail: { endFrame: number; gainDb: number } | null;
  files: LoopFile[];
}

const modes: Record<string, string> = {
  mono: 'mix',
  left: 'left',
  right: 'right',
  stereo: 'stereo',
  swap: 'swap',
};

/** What is to be made of each file, checked as far as it can be before any is opened. @throws wrong-call, bad-time */
export function loopPlan(options: MakeOptions) {
  const wish = seamWish(options);
  const { start, end, introFrom, channels } = options;
  for (const time of [start, end, introFrom]) checkTime(time);
  const listening =
    listeningWish(options.listeningCopy) ?? (options.handover ? usualListening : null);
  const hasPieces = Boolean(options.parts) || Boolean(options.handover);
  const chosen = writerSettings(options);
  const rateHz = rateOption('rate', options.rate);
  const gainDb = numberOption('gain', options.gain, rangeOf('gain', 'gainDb'));
  const mode = channels === undefined ? undefined : modes[channels];
  if (channels !== undefined && mode === undefined) {
    throw wrong(`--channels cannot be "${channels}".`, `Choose ${Object.keys(modes).join(', ')}.`);
  }
  if (rateHz !== undefined) {
    const kind = writerById(chosen.writer);
    const refusal = holdsRate(kind.legal.rates, rateHz)
      ? null
      : legalityRefusal(kind, rateHz, kind.legal.channels[0]!);
    if (refusal) throw refusal;
  }
  // What is for listening is an MP3, unless it is the only thing that was asked for, in another format.
  const isAlone = !hasPieces && (options.format !== undefined || options.codec !== undefined);
  const listeningForm = isAlone ? chosen : usualListeningForm;

  return (looked: Looked): PlannedLoop => {
    const { shape, loop } = {
      shape: looked.shape,
      loop: meantLoop(looked, options, Boolean(options.unroll)),
    };
    const time = (text: string) => parseTime(text, shape.rateHz).frame;
    const steps: Step[] = [...loop.steps];
    const { startFrame, crossfadeFrames } = seamRoom();
    const introStart = introFrom === undefined ? 0 : time(introFrom);
    if (introStart > startFrame) throw introBehind();
    if (introStart > 0) steps.push(step('keep', { startFrame: introStart, endFrame: loop.frames }));
    // Behind the end of the sound is nothing that could ring.
    const rest = loop.frames - loop.endFrame;
    if (wish.tail && rest === 0) throw nothingBehind();
    const tailFrames = wish.tail ? Math.min(time(wish.tail.time), rest) : 0;
    const params = {
      startFrame: startFrame - introStart,
      endFrame: loop.endFrame - introStart,
      introFrames: startFrame - introStart,
      tailFrames,
      seam: wish.crossfade ? 'crossfade' : wish.tail ? 'tail' : 'cut',
      crossfadeFrames,
      ...(wish.crossfade && { curve: wish.crossfade.curve }),
      ...(wish.tail && { tailDb: wish.tail.db }),
    } as Parameters<typeof addedFrames>[0];
    steps.push(step(loopStep.kind, { ...params }));
    const made: Recipe = { version: 1, steps };
    shapeAfter(made, shape);
    return {
      loop: { startFrame, endFrame: loop.endFrame },
      before: { version: 1, steps: loop.steps },
      addedFrames: addedFrames(params),
      tail: wish.tail && { endFrame: loop.endFrame + tailFrames, gainDb: wish.tail.db },
      files: files(),
    };

    /** @throws bad-span for a crossfade that has no room */
    function seamRoom(): { startFrame: number; crossfadeFrames: number } {
      const { startFrame, endFrame, isOpen } = loop;
      if (!wish.crossfade) return { startFrame, crossfadeFrames: 0 };
      const asked = time(wish.crossfade.time);
      if (asked === 0) throw noCrossfade();
      if (!isOpen) return { startFrame, crossfadeFrames: asked };
      const room = crossfadeRoom({ startFrame, endFrame }, asked);
      if (room.crossfadeFrames < asked) throw crossfadeTooLong();
      return room;
    }

    function files(): LoopFile[] {
      const all = [...steps];
      const now = () => shapeAfter({ version: 1, steps: all }, shape);
      if (mode) all.push(step('channels', { mode }));
      if (rateHz !== undefined && now().rateHz !== rateHz) all.push(step('resample', { rateHz }));
      if (gainDb) all.push(step('gain', { gainDb }));
      const sound = {
        shape,
        stored: looked,
        marks: noMarks,
        recipe: { version: 1 as const, steps: all },
      };
      // What was asked for by name stays; only the depth is that of the trade.
      const form = options.handover ? handoverForm(looked) : null;
      const pieces =
        form?.writer === chosen.writer
          ? { ...chosen, settings: { ...form.settings, ...chosen.settings } }
          : chosen;
      return loopFiles(sound, {
        whole: hasPieces || listening ? null : chosen,
        pieces: hasPieces ? pieces : null,
        listening: listening && { times: listening, form: listeningForm },
      });
    }
  };
}

function step(kind: string, params: Record<string, unknown>): Step {
  return { kind, on: true, params };
}

function introBehind(): BijouError {
  return new BijouError(
    'bad-span',
    'The intro would begin behind the start of the loop.',
    'Give an earlier --intro-from, or a later --start.',
  );
}

function nothingBehind(): BijouError {
  return new BijouError(
    'bad-span',
    'Nothing lies behind the loop that could ring: it ends with the sound.',
    'Give an earlier --end, where the music ends and the rest only rings.',
  );
}

function crossfadeTooLong(): BijouError {
  return new BijouError(
    'bad-span',
    'The crossfade is longer than half of the sound.',
    'Make it shorter.',
  );
}

function noCrossfade(): BijouError {
  return new BijouError(
    'bad-span',
    'The crossfade has no length.',
    'Give it one, or leave --crossfade out: then the loop is cut hard.',
  );
}
