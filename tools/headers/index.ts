import { checkAiff } from './aiff';
import { faultsOf } from './bytes';
import { checkFlac } from './flac';
import { checkMp3 } from './mp3';
import { checkMp4 } from './mp4';
import { checkOgg } from './ogg';
import { checkWav } from './wav';
import { checkWebm } from './webm';

/** A checker for every container, written from its standard; none shares code with what writes it. */
const checkers = {
  wav: checkWav,
  aiff: checkAiff,
  flac: checkFlac,
  mp3: checkMp3,
  ogg: checkOgg,
  webm: checkWebm,
  mp4: checkMp4,
};

/** What is wrong with the headers of a file; containers without any have no checker. */
export function headerFaults(container: string, bytes: Uint8Array): string[] {
  const check = checkers[container as keyof typeof checkers];
  return check ? faultsOf(check, bytes) : [];
}
