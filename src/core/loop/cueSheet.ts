import type { Tempo } from '../tempo';
import { formatTime } from '../time';
import { count } from '../tradeNames';
import { plural } from '../words';
import { loopPieces, type LoopPiece } from './parts';

/** One file of a handover set that belongs to the loop. */
interface CuedPiece {
  piece: LoopPiece;
  file: string;
  frames: number;
}

/** What a handover set says of itself: which file follows which. */
export interface CueSheet {
  /** Edition of this form. */
  cueSheet: 1;
  name: string;
  sampleRateHz: number;
  channels: number;
  tempo: Tempo | null;
  /** In the order in which they are heard; each begins on the frame on which the one before it ends. */
  pieces: {
    piece: LoopPiece;
    file: string;
    plays: 'once' | 'around';
    /** From the beginning of the first file, where it is heard for the first time. */
    startFrame: number;
    frames: number;
    seconds: number;
  }[];
  /** Whether the repeat carries under its start what rings behind the loop's end. */
  repeatCarriesTail: boolean;
  listeningCopy: { file: string; times: number } | null;
}

/** What is known of a set when its cue sheet is written. */
export interface HandoverFacts {
  name: string;
  sampleRateHz: number;
  channels: number;
  tempo: Tempo | null;
  /** In the order in which they are heard. */
  pieces: readonly CuedPiece[];
  repeatCarriesTail: boolean;
  listeningCopy: CueSheet['listeningCopy'];
}

export function cueSheetOf({ pieces, ...facts }: HandoverFacts): CueSheet {
  let startFrame = 0;
  const cued = pieces.map(({ piece, file, frames }) => {
    const start = startFrame;
    startFrame += frames;
    return {
      piece,
      file,
      plays: piece === 'repeat' ? ('around' as const) : ('once' as const),
      startFrame: start,
      frames,
      seconds: frames / facts.sampleRateHz,
    };
  });
  return {
    cueSheet: 1,
    name: facts.name,
    sampleRateHz: facts.sampleRateHz,
    channels: facts.channels,
    tempo: facts.tempo,
    pieces: cued,
    repeatCarriesTail: facts.repeatCarriesTail,
    listeningCopy: facts.listeningCopy,
  };
}

/** The same in words, for whoever puts the files into an engine. */
export function cueSheetText(sheet: CueSheet): string {
  const { name, sampleRateHz, tempo, pieces, repeatCarriesTail, listeningCopy } = sheet;
  const lines = pieces.map(({ piece, file, plays, frames, seconds }, i) => {
    const how = plays === 'around' ? 'again and again, until the music is to end' : 'once';
    const length = `${plural(frames, 'frame')}, ${formatTime(seconds)}`;
    return `${i + 1}. ${file} (${loopPieces[piece]}): ${how}; ${length}`;
  });
  return [
    `${name}: how its files follow one another`,
    '',
    ...lines,
    '',
    'Start each file on the very frame on which the one before it ends. Nothing overlaps, nothing is left out.',
    repeatCarriesTail
      ? 'The repeat pass is the first pass with what rings behind its end under its start: leave the tail of the pass before it out.'
      : 'The repeat pass is the same as the first pass.',
    `All lengths are in frames at ${count(sampleRateHz)} Hz.`,
    ...(tempo ? [`Tempo: ${tempo.bpm} beats a minute, ${tempo.beatsPerBar} beats a bar.`] : []),
    ...(listeningCopy
      ? [
          '',
          `${listeningCopy.file} is for listening: ${plural(listeningCopy.times, 'pass')}, the last one faded out. Do not put it into the game.`,
        ]
      : []),
    '',
  ].join('\n');
}
