import type { JobKind } from '../kind';
import { decodingJob } from './decoding';
import { encodeJob } from './encode';
import { joinJob } from './join';
import { outcomeJob } from './outcome';
import { packJob } from './pack';
import { readJob } from './read';
import { rehearseJob } from './rehearse';
import { trialJob } from './trial';
import { unpackJob } from './unpack';

/** Every kind of job, in the order in which people read what is being done. */
export const jobKinds: readonly JobKind[] = [
  unpackJob,
  readJob,
  joinJob,
  encodeJob,
  packJob,
  rehearseJob,
  trialJob,
  decodingJob,
  outcomeJob,
];
