import type { Facts, ListedFacts } from '../measure/probe';
import { mean } from '../measure/statistics';
import { formatTime } from '../time';
import { plainNumber } from '../tradeNames';

/** A sound as far as has to be known of it. */
export interface Pickable {
  id: number;
  facts: ListedFacts;
  spectrum: Facts['spectrum'];
  /** How likely it is that somebody speaks, 0 to 1; left out where that was not asked. */
  voice?: number;
}

/** A sound that stands for a kind, and why. */
export interface PickedSound {
  soundId: number;
  why: string;
}

/** One kind of sounds that codecs treat differently. */
interface Trait {
  /** High for those that have much of it; null for those that do not count. */
  score(sound: Pickable): number | null;
  why(score: number): string;
}

const traits: readonly Trait[] = [
  { score: ({ facts }) => facts.seconds, why: (seconds) => `the longest, ${formatTime(seconds)}` },
  {
    // A click is as flat, and no noise.
    score: (sound) => ((crestOf(sound) ?? Infinity) < MOST_NOISY_CREST_DB ? flatness(sound) : null),
    why: (db) => `the noisiest: its bands differ by ${plainNumber(-db, 0)} dB only`,
  },
  {
    score: (sound) => {
      const flat = flatness(sound);
      return flat === null ? null : -flat;
    },
    why: (db) => `the purest tone: it stands ${plainNumber(db, 0)} dB out of its spectrum`,
  },
  {
    score: ({ voice = 0 }) => (voice >= LEAST_VOICE ? voice : null),
    why: () => 'the most like speech, as far as pitch and syllables tell',
  },
  {
    score: (sound) => (sound.facts.seconds < LEAST_SECONDS ? null : crestOf(sound)),
    why: (db) => `the most sudden: its peak stands ${plainNumber(db, 0)} dB above its mean`,
  },
];

/** Shorter sounds are all peaks. */
const LEAST_SECONDS = 0.1;
/** Where the ear is good. */
const BAND_HZ = [100, 10_000] as const;

/** Peaks of noise lie no farther above its mean. */
const MOST_NOISY_CREST_DB = 20;

/** How far the peak lies above the mean, in dB; null for silence. */
function crestOf({ facts: { peakDbfs, rmsDbfs } }: Pick<Pickable, 'facts'>): number | null {
  return peakDbfs === null || rmsDbfs === null ? null : peakDbfs - rmsDbfs;
}

/** How even a spectrum is: the mean of its levels less the level of their mean power, in dB; 0 is flat. */
function flatness({ spectrum, facts }: Pickable): number | null {
  if (!spectrum || facts.seconds < LEAST_SECONDS) return null;
  const levels = spectrum.levelsDb.filter(
    (_, i) => spectrum.hz[i]! >= BAND_HZ[0] && spectrum.hz[i]! <= BAND_HZ[1],
  );
  if (levels.length === 0) return null;
  return mean(levels) - 10 * Math.log10(mean(levels.map((db) => 10 ** (db / 10))));
}

/** What is less likely is not called a voice: bells come up to 0.63. */
const LEAST_VOICE = 0.7;
/** Voices lie between these, in Hz, and their level goes up and down by so many dB. */
const VOICE_HZ = [150, 4_000] as const;
const VOICE_CREST_DB = [10, 24] as const;
const LEAST_VOICE_SECONDS = 0.3;

/** The share of the power that lies where voices are, of sounds whose level is as lively as a voice's. */
function voiceShare({ spectrum, facts }: Pickable): number | null {
  const crest = crestOf({ facts });
  if (!spectrum?.aboveDb || crest === null || facts.seconds < LEAST_VOICE_SECONDS) return null;
  if (crest < VOICE_CREST_DB[0] || crest > VOICE_CREST_DB[1]) return null;
  const above = (hz: number) => {
    const i = spectrum.hz.findIndex((one) => one >= hz);
    return i < 0 ? 0 : 10 ** ((spectrum.aboveDb?.[i] ?? -200) / 10);
  };
  return above(VOICE_HZ[0]) - above(VOICE_HZ[1]);
}

/** Those of many that may be voices, by what is known of them without listening; the likeliest first. */
export function maybeVoices<Sound extends Pickable>(
  sounds: readonly Sound[],
  most: number,
): Sound[] {
  return sounds
    .flatMap((sound) => {
      const share = voiceShare(sound);
      return share === null ? [] : [{ sound, share }];
    })
    .sort((a, b) => b.share - a.share)
    .slice(0, most)
    .map(({ sound }) => sound);
}

/** A few sounds that are as different as codecs can tell, one of each kind; fewer where there are not so many. */
export function pickFew(sounds: readonly Pickable[]): PickedSound[] {
  const picked: PickedSound[] = [];
  for (const { score, why } of traits) {
    const free = sounds.filter(({ id }) => !picked.some(({ soundId }) => soundId === id));
    const scored = free.flatMap((sound) => {
      const value = score(sound);
      return value === null ? [] : [{ soundId: sound.id, value }];
    });
    const best = scored.sort((a, b) => b.value - a.value || a.soundId - b.soundId)[0];
    if (best) picked.push({ soundId: best.soundId, why: why(best.value) });
  }
  return picked;
}
