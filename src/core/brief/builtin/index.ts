import type { BriefCatalogue } from '../catalogue';
import { completeBrief } from '../complete';
import type { BriefText } from '../schema';
import { archive } from './archive';
import { arFilter } from './arFilter';
import { handheld } from './handheld';
import { pocketToy } from './pocketToy';
import { wavMaster } from './wavMaster';
import { webPage } from './webPage';
import { webStream } from './webStream';

/** The briefs that come with Bijou, as they are written. */
export const builtinTexts: readonly BriefText[] = [
  arFilter,
  webPage,
  webStream,
  handheld,
  pocketToy,
  wavMaster,
  archive,
];

/** The same, complete. */
export const builtinBriefs: BriefCatalogue = builtinTexts.map(completeBrief);
