import { memorySource, type ByteSource } from '@/core/bytes/source';
import { LevelMeter } from '@/core/measure/level';
import { LoudnessMeter } from '@/core/measure/loudness';
import { PyramidBuilder } from '@/core/measure/pyramid';
import { VoiceMeter } from '@/core/measure/voice/meter';
import { TruePeakMeter } from '@/core/measure/truePeak';
import type { Marks } from '@/core/marks';
import { proposeTempo, type ProposedTempo } from '@/core/measure/tempo';
import { estimateBytes, type Estimate } from '@/core/oneOff/estimate';
import type { PcmSource } from '@/core/pcm/source';
import { active, recipeKey } from '@/core/recipe/recipe';
import type { ShapedLevels } from '@/wire';
import { withFile } from '../files/bytes';
import type { Asker, Interest } from './interest';
import type { ListenedSound } from './listenedSound';
import { Remembered } from './remembered';

/** A sound that is asked about, and who asks. */
interface Asked {
  sound: ListenedSound;
  asker: Asker;
}

/** What sounds will come to as files. */
const estimates = new Remembered<Estimate>({ most: 20_000 });

/** What a sound will come to as a file, or what was found about it before. */
export function estimateOf(
  source: PcmSource,
  { sound, asker }: Asked,
  { writer, settings, marks }: { writer: string; settings: object; marks: Marks },
): Promise<Estimate> {
  const key = `${keyOf(sound)} ${JSON.stringify([writer, settings, marks])}`;
  return estimates.get(key, asker, (interest) =>
    estimateBytes(source, writer, settings, { marks, pause: () => interest.rest() }),
  );
}

const tempi = new Remembered<{ tempo: ProposedTempo | null }>({ most: 2_000 });

/** The tempo that can be heard in a sound, or what was found before. */
export async function tempoOf(
  source: PcmSource,
  { sound, asker }: Asked,
): Promise<ProposedTempo | null> {
  const { tempo } = await tempi.get(keyOf(sound), asker, async (interest) => ({
    tempo: await proposeTempo(source, () => interest.rest()),
  }));
  return tempo;
}

const voices = new Remembered<number>({ most: 2_000 });

/** How likely it is that somebody speaks in a sound, or what was found before. */
export function voiceOf(source: PcmSource, { sound, asker }: Asked): Promise<number> {
  return voices.get(keyOf(sound), asker, async (interest) => {
    const meter = new VoiceMeter(source.rateHz);
    for await (const block of source.from(0)) {
      await interest.rest();
      meter.push(block);
      if (meter.isFull) break;
    }
    return meter.likelihood();
  });
}

/** Figures of steps that measure a whole sound, by sound and steps. */
const figures = new Remembered<unknown>({ most: 500 });
/** Pictures behind recipes. */
const pyramids = new Remembered<Uint8Array>({ most: 64 << 20, size: (bytes) => bytes.length });
const levels = new Remembered<ShapedLevels>({ most: 2_000 });

/** What steps have measured on a sound, or measures it now; `make` is told who is interested. */
export function figureOf<Figure>(
  { sound, asker }: Asked,
  steps: string,
  make: (interest: Interest) => Promise<Figure>,
): Promise<Figure> {
  return figures.get(`${sound.sha256} ${steps}`, asker, make) as Promise<Figure>;
}

/** What the last step of an opened sound has measured. */
export function lastFigure({ sound, asker }: Asked): Promise<unknown> {
  return figures.get(keyOf(sound), asker, () => {
    throw new Error('its last step measures nothing');
  });
}

function keyOf({ sha256, recipe }: ListenedSound): string {
  return `${sha256} ${recipe ? recipeKey(recipe) : ''}`;
}

/** Reads the whole sound once: its levels, and on the way the picture of it. */
export function levelsOf(
  source: PcmSource,
  { sound, asker }: Asked,
  isThorough: boolean,
): Promise<ShapedLevels> {
  return levels.get(`${keyOf(sound)} ${isThorough}`, asker, async (interest) => {
    const pyramid = new PyramidBuilder(source.channelCount);
    const level = new LevelMeter(source.channelCount);
    const truePeak = new TruePeakMeter(source.rateHz, source.channelCount);
    const loudness = new LoudnessMeter(source);
    const meters = isThorough ? [pyramid, level, truePeak, loudness] : [pyramid, level];
    for await (const block of resting(source, () => interest.rest()).from(0)) {
      for (const meter of meters) meter.push(block);
    }
    pyramids.put(keyOf(sound), pyramid.finish());
    const { rateHz, channelCount, frames } = source;
    const { peakDbfs, rmsDbfs, correlation } = level.result();
    return {
      rateHz,
      channelCount,
      frames,
      peakDbfs,
      rmsDbfs,
      correlation,
      truePeakDbtp: isThorough ? truePeak.result().truePeakDbtp : null,
      lufs: isThorough ? loudness.result().lufs : null,
    };
  });
}

/** The pyramid behind a recipe, from an earlier measuring or a pass of its own. */
function pyramidOf(source: PcmSource, { sound, asker }: Asked): Promise<Uint8Array> {
  return pyramids.get(keyOf(sound), asker, async (interest) => {
    const pyramid = new PyramidBuilder(source.channelCount);
    for await (const block of resting(source, () => interest.rest()).from(0)) pyramid.push(block);
    return pyramid.finish();
  });
}

/** The pyramid of a source is stored; that of a shaped sound is made when it is first wanted. */
export async function withPyramid<T>(
  source: PcmSource,
  asked: Asked,
  work: (pyramid: ByteSource) => Promise<T>,
): Promise<T> {
  const { recipe, peaks } = asked.sound;
  const isShaped = recipe !== null && active(recipe).length > 0;
  if (!isShaped) return withFile(peaks, work);
  return work(memorySource(await pyramidOf(source, asked)));
}

/** A source that asks before every block whether it may go on. */
export function resting(source: PcmSource, rest: () => Promise<void>): PcmSource {
  return {
    ...source,
    async *from(startFrame) {
      for await (const block of source.from(startFrame)) {
        await rest();
        yield block;
      }
    },
  };
}
