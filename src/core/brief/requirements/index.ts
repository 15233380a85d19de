import { bitDepth } from './bitDepth';
import { bitRate } from './bitRate';
import { bytes } from './bytes';
import { channels } from './channels';
import { format } from './format';
import { fullScale } from './fullScale';
import { language } from './language';
import { length } from './length';
import { loudness, peak } from './level';
import { loop, seam } from './loop';
import { name } from './name';
import type { Requirement } from './requirement';
import { sampleRate } from './sampleRate';
import { tags } from './tags';

/** Everything that briefs can demand, in the order in which people read it. */
export const requirements: readonly Requirement[] = [
  format,
  bitRate,
  sampleRate,
  channels,
  bitDepth,
  length,
  peak,
  loudness,
  fullScale,
  loop,
  seam,
  tags,
  language,
  name,
  bytes,
];
