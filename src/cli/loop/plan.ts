import { BijouError } from '@/core/errors';
import { legalityRefusal } from '@/core/formats/legality';
import { holdsRate } from '@/core/formats/rates';
import { writerById, writerFor } from '@/core/formats/write';
import {
  listeningSteps,
  usualListening,
  usualListeningForm,
  type ListeningWish,
} from '@/core/loop/listening';
import { pieceRecipe, piecesOf, pieceWords, type LoopPiece } from '@/core/loop/parts';
import { noMarks, type SoundMarks, type Stretch } from '@/core/marks';
import type { Change } from '@/core/oneOff/change';
import { fit, type Wish } from '@/core/oneOff/fit';
import { marksAfter, shapeAfter } from '@/core/recipe/recipe';
import { addedFrames, crossfadeRoom, loop as loopStep } from '@/core/recipe/steps/loop';
import type { Recipe, Shape, Step } from '@/core/recipe/types';
import { parseTime } from '@/core/time';
import type { Looked } from '../batch/tasks';
import { rateOption, wrong } from '../convert/numbers';
import { writerSettings } from '../convert/settings';
import { checkTime, listeningWish, seamWish, type MakeOptions } from './options';
import { meantLoop } from './place';

/** What a file of a call is for. */
export type Role = 'whole' | LoopPiece | 'listening';

/** One file that is made of a loop. */
export interface PlannedFile {
  role: Role;
  writer: string;
  recipe: Recipe;
  settings: object;
  changes: Change[];
  shape: Shape;
  /** What tells its name apart from those of its siblings. */
  mark: string;
}

/** What is made of one file. */
export interface PlannedLoop {
  /** In the frames of the source, or of the unrolled source. */
  loop: Stretch;
  /** What has to be done before the loop can be looked at. */
  before: Recipe;
  /** The loop made, with its seam in frames behind that. */
  made: Recipe;
  seam: Stretch;
  /** What the one file gets longer by, so that the repeat carries the tail. */
  addedFrames: number;
  /** Where the tail ends that lies under the repeats, in frames of the source. */
  tailEnd: number | null;
  files: PlannedFile[];
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
  const mode = channels === undefined ? undefined : modes[channels];
  if (channels !== undefined && mode === undefined) {
    throw wrong(`--channels cannot be "${channels}".`, `Choose ${Object.keys(modes).join(', ')}.`);
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
    const tailFrames = wish.tail ? time(wish.tail.time) : 0;
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
    const seam = marksOf(made).loop!;
    return {
      loop: { startFrame, endFrame: loop.endFrame },
      before: { version: 1, steps: loop.steps },
      made,
      seam,
      addedFrames: addedFrames(params),
      tailEnd: wish.tail ? loop.endFrame + tailFrames : null,
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

    function files(): PlannedFile[] {
      const whole = fitted(chosen);
      const list: PlannedFile[] = [];
      if (hasPieces) {
        for (const piece of piecesOf(marksOf(whole.recipe))) {
          const recipe = pieceRecipe(whole.recipe, shape, noMarks, piece);
          list.push(file(piece, { ...whole, recipe }, ` ${pieceWords[piece]}`));
        }
      }
      if (listening) list.push(listeningFile(listening));
      return list.length > 0 ? list : [file('whole', whole, '')];
    }

    function listeningFile(wanted: ListeningWish): PlannedFile {
      const whole = fitted(listeningForm);
      const last = listeningSteps(marksOf(whole.recipe), whole.shape, wanted);
      const recipe = { ...whole.recipe, steps: [...whole.recipe.steps, ...last] };
      return file('listening', { ...whole, recipe }, ' listening');
    }

    function file(role: Role, form: Omit<PlannedFile, 'role' | 'mark' | 'shape'>, mark: string) {
      return { role, ...form, mark, shape: shapeAfter(form.recipe, shape) };
    }

    /** The made loop in a format, as far as that holds it. */
    function fitted({ writer, settings, isUsual }: Wish) {
      const kind = writerById(writer);
      const all = [...steps];
      const now = () => shapeAfter({ version: 1, steps: all }, shape);
      if (mode) all.push(step('channels', { mode }));
      if (rateHz !== undefined && now().rateHz !== rateHz) {
        const refusal = holdsRate(kind.legal.rates, rateHz)
          ? null
          : legalityRefusal(kind, rateHz, kind.legal.channels[0]!);
        if (refusal) throw refusal;
        all.push(step('resample', { rateHz }));
      }
      const asked = { ...(options.handover && depthOf(writer, looked)), ...settings };
      const {
        steps: more,
        settings: complete,
        changes,
      } = fit(now(), looked, { writer, settings: asked, isUsual });
      all.push(...more);
      const recipe: Recipe = { version: 1, steps: all };
      return { writer, recipe, settings: complete, changes, shape: now() };
    }

    function marksOf(recipe: Recipe): SoundMarks {
      return marksAfter(recipe, shape, noMarks);
    }
  };
}

/** What is handed over is a WAV of 16 bits, or of 24 where there are more. */
function depthOf(writer: string, { bitDepth, codec }: Looked): { bits?: number } {
  if (writer !== writerFor('wav', undefined).id) return {};
  return { bits: codec !== 'float' && bitDepth !== null && bitDepth <= 16 ? 16 : 24 };
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
