import { formatTime } from '../time';
import { either, formatName, kilohertz, layoutName, plainNumber, ratesText } from '../tradeNames';
import { isMixable } from '../dsp/channels';
import { speakersOf } from '../pcm/speakers';
import type { Brief, BriefFile } from './schema';
import type { CheckedFacts, Finding, Verdict } from './types';
import { plural } from '../words';

/** One thing that a brief can demand. `null` where it demands nothing. */
interface Requirement {
  id: string;
  /** It says nothing of a sound that is still to be converted. */
  isOfFinished?: true;
  judge(
    facts: CheckedFacts,
    file: BriefFile,
    brief: Brief,
  ): Omit<Finding, 'requirement' | 'fileId'> | null;
}

const lossyCodecs = new Set(['mp3', 'mp2', 'vorbis', 'opus', 'aac', 'he-aac']);

const format: Requirement = {
  id: 'format',
  judge(facts, file) {
    const found = formatName(facts.container, facts.codec);
    const wanted = formatName(file.container, file.codec);
    const met = facts.container === file.container && facts.codec === file.codec;
    const again = lossyCodecs.has(facts.codec) && lossyCodecs.has(file.codec);
    return {
      verdict: met ? 'met' : 'convert',
      found,
      wanted,
      sentence: met
        ? `It is ${found}, as wanted.`
        : `It is ${found}; the destination takes ${wanted}.` +
          (again
            ? ' It was lossy before and loses a little again; use the original if there is one.'
            : ''),
    };
  },
};

const sampleRate: Requirement = {
  id: 'sample-rate',
  judge(facts, file) {
    const met = file.sampleRatesHz.includes(facts.sampleRateHz);
    const found = kilohertz(facts.sampleRateHz);
    const wanted = ratesText(file.sampleRatesHz);
    const target = file.sampleRatesHz[0]!;
    const lost =
      target < facts.sampleRateHz ? ` Nothing above ${kilohertz(target / 2)} is kept.` : '';
    return {
      verdict: met ? 'met' : 'convert',
      found,
      wanted,
      sentence: met
        ? `${found} is accepted.`
        : `Resampled from ${found} to ${kilohertz(target)}: the pitch stays the same.${lost}`,
    };
  },
};

const channels: Requirement = {
  id: 'channels',
  judge(facts, file) {
    const found = layoutName(facts.channels);
    const wanted = either(file.channels.map(layoutName));
    const common = { found, wanted };
    if (file.channels.includes(facts.channels)) {
      return { ...common, verdict: 'met', sentence: `${capital(found)} is accepted.` };
    }
    if (facts.channels > 2) return { ...common, ...surroundVerdict(facts) };
    if (facts.channels === 1) {
      return {
        ...common,
        verdict: 'convert',
        sentence: 'The one channel is copied to both sides.',
      };
    }
    return { ...common, ...mixVerdict(facts.correlation) };
  },
};

/** Layouts whose speakers are known are mixed down after ITU-R BS.775. */
function surroundVerdict({ channels, speakers = speakersOf(channels) }: CheckedFacts): {
  verdict: Verdict;
  sentence: string;
} {
  return isMixable(speakers)
    ? {
        verdict: 'convert',
        sentence: `${capital(layoutName(channels))} is mixed down, so that nothing can clip.`,
      }
    : {
        verdict: 'cannot',
        sentence: `Nobody has said how ${speakers?.join(' ') ?? `${channels} channels`} are mixed down.`,
      };
}

/** Two sounds that have nothing in common come out a hair above or below 0; that is not cancelling. */
const AGAINST = -0.05;

function mixVerdict(correlation: number | null | undefined): {
  verdict: Verdict;
  sentence: string;
} {
  if (correlation != null && correlation < AGAINST) {
    return {
      verdict: 'decide',
      sentence:
        `Left and right work against each other (correlation ${correlation.toFixed(2).replace('-', '−')}): mixed, they ` +
        'would partly cancel. Choose to keep the left or the right channel, or mix all the same.',
    };
  }
  return {
    verdict: 'convert',
    sentence: 'Both channels are mixed to one, unless you keep just one.',
  };
}

const bitDepth: Requirement = {
  id: 'bit-depth',
  judge(facts, file) {
    if (!file.bitDepths) return null;
    const wantedBits = file.bitDepths[0]!;
    const met =
      facts.bitDepth !== null && file.bitDepths.includes(facts.bitDepth) && facts.codec !== 'float';
    const found = facts.bitDepth === null ? 'none (lossy)' : `${facts.bitDepth}-bit`;
    const reduced =
      facts.bitDepth === null || facts.bitDepth > wantedBits || facts.codec === 'float';
    return {
      verdict: met ? 'met' : 'convert',
      found,
      wanted: either(file.bitDepths.map((bits) => `${bits}-bit`)),
      sentence: met
        ? `${found} is accepted.`
        : reduced
          ? `Written with ${wantedBits} bits and dither.`
          : `Written with ${wantedBits} bits; the sound gains nothing and loses nothing.`,
    };
  },
};

const length: Requirement = {
  id: 'length',
  judge(facts, _, brief) {
    if (brief.mostSeconds === undefined) return null;
    const met = facts.seconds <= brief.mostSeconds;
    const wanted = `at most ${formatTime(brief.mostSeconds)}`;
    return {
      verdict: met ? 'met' : 'cannot',
      found: formatTime(facts.seconds),
      wanted,
      sentence: met
        ? 'Short enough.'
        : `Too long: the destination takes ${wanted}. Keep a shorter span.`,
    };
  },
};

const bytes: Requirement = {
  id: 'bytes',
  isOfFinished: true,
  judge(facts, file, brief) {
    // Another format will have another size.
    const isFinished = facts.container === file.container && facts.codec === file.codec;
    if (brief.mostBytes === undefined || !isFinished) return null;
    const met = facts.bytes <= brief.mostBytes;
    const wanted = `at most ${plural(brief.mostBytes, 'byte')}`;
    return {
      verdict: met ? 'met' : 'cannot',
      found: plural(facts.bytes, 'byte'),
      wanted,
      sentence: met ? 'Small enough.' : `Too large: the destination takes ${wanted}.`,
    };
  },
};

/** Rounding alone is no clipping. */
const LEAST_OVER_DB = 0.01;

const fullScale: Requirement = {
  id: 'full-scale',
  judge({ overDb }, file) {
    if (overDb === undefined || file.holdsBeyond) return null;
    const wanted = 'nothing above full scale';
    if (overDb < LEAST_OVER_DB) {
      return { verdict: 'met', found: wanted, wanted, sentence: 'Nothing lies above full scale.' };
    }
    const found = `${plainNumber(overDb, overDb < 0.1 ? 2 : 1)} dB above full scale`;
    return {
      verdict: 'decide',
      found,
      wanted,
      sentence: `Its loudest moment lies ${found}, and would be cut off: the file would clip.`,
    };
  },
};

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** Everything that briefs can demand, in the order in which people read it. */
export const requirements: readonly Requirement[] = [
  format,
  sampleRate,
  channels,
  bitDepth,
  length,
  fullScale,
  bytes,
];
