import type { Brief } from '../schema';
import { archive } from './archive';
import { arFilter } from './arFilter';
import { handheld } from './handheld';
import { pocketToy } from './pocketToy';
import { wavMaster } from './wavMaster';
import { webPage } from './webPage';
import { webStream } from './webStream';

/** The briefs that come with Bijou. */
export const builtinBriefs: readonly Brief[] = [
  arFilter,
  webPage,
  webStream,
  handheld,
  pocketToy,
  wavMaster,
  archive,
];
