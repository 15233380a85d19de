import { parseRaw } from '@/core/formats/raw/reader';
import { clicks, scoreParts, type SeamFigures } from '@/core/loop/seam';
import { loopManner, type Loop, type Stretch } from '@/core/marks';
import { formatTime } from '@/core/time';
import { count } from '@/core/tradeNames';
import { Batch } from '../batch/batch';
import type { Looked } from '../batch/tasks';
import { oneOutput } from '../convert/numbers';
import { Listing } from '../listing';
import { harmlessName } from '../output';
import { checkTime, type ShowOptions } from './options';
import { meantLoop } from './place';

/** Says where each file loops, and how its seam is. */
export async function runShow(named: readonly string[], options: ShowOptions): Promise<number> {
  const { start, end, json, jsonLines, threads, raw } = options;
  oneOutput({ json, 'json-lines': jsonLines });
  for (const time of [start, end]) checkTime(time);
  const description = raw === undefined ? undefined : parseRaw(raw);
  const batch = await Batch.of(await Listing.of(named), threads, {
    json,
    jsonLines,
    hasProgress: true,
  });
  return batch.run({
    look: (input) => batch.do(input, { kind: 'look', place: input.place, raw: description }),
    prepare: (_, looked: Looked) => looked,
    work: async (input, looked) => {
      const { file, place } = input;
      const { rateHz, frames } = looked.shape;
      // What runs back and forth is looked at as it plays.
      const loop = meantLoop(looked, options, true);
      const { seam } = await batch.do(input, {
        kind: 'seam',
        place,
        raw: description,
        recipe: { version: 1, steps: loop.steps },
        frames,
        loop,
        tail: null,
      });
      const shown: Loop =
        start === undefined && end === undefined && looked.loop ? looked.loop : loop;
      return {
        line: `${harmlessName(file.path)}  ${placeText(shown, rateHz)}${loopManner(shown)
          .map((how) => `, ${how}`)
          .join('')}  ${seamText(seam)}`,
        data: {
          file: file.path,
          sampleRateHz: rateHz,
          loop: { ...placeJson(shown), ...mannerJson(shown) },
          seam,
        },
        warnings: looked.warnings.map(({ message }) => message),
        seconds: frames / rateHz,
        bytesBefore: looked.bytes,
      };
    },
  });
}

export function placeJson({ startFrame, endFrame }: Stretch) {
  return { startFrame, endFrame, lengthFrames: endFrame - startFrame };
}

function mannerJson({ isBackAndForth, isBackward, times }: Loop) {
  return {
    ...(isBackAndForth && { isBackAndForth }),
    ...(isBackward && { isBackward }),
    ...(times !== undefined && { times }),
  };
}

export function placeText({ startFrame, endFrame }: Stretch, rateHz: number): string {
  const [from, to] = [startFrame, endFrame].map((frame) => formatTime(frame / rateHz));
  return `loop ${from} to ${to} (${count(endFrame - startFrame)} frames)`;
}

/** The score and what it is made of, in one line. */
export function seamText(seam: SeamFigures): string {
  const parts = scoreParts.map(({ name, value }) => `${name.toLowerCase()} ${value(seam)}`);
  return `seam ${seam.score} of 100${clicks(seam) ? ', clicks' : ''} (${parts.join(', ')})`;
}
