import type { BriefCatalogue } from '../catalogue';
import { completeBrief } from '../complete';
import type { BriefText } from '../schema';
import { archive } from './archive';
import { arFilter } from './arFilter';
import { composerHandover } from './composerHandover';
import { engineEffects } from './engineEffects';
import { engineMusic } from './engineMusic';
import { gameMod } from './gameMod';
import { handheld } from './handheld';
import { pocketToy } from './pocketToy';
import { wavMaster } from './wavMaster';
import { webPage } from './webPage';
import { webSingle } from './webSingle';
import { webStream } from './webStream';

/** The briefs that come with Bijou, as they are written. */
export const builtinTexts: readonly BriefText[] = [
  arFilter,
  webPage,
  webStream,
  webSingle,
  gameMod,
  engineEffects,
  engineMusic,
  handheld,
  pocketToy,
  composerHandover,
  wavMaster,
  archive,
];

/** The same, complete. */
export const builtinBriefs: BriefCatalogue = builtinTexts.map(completeBrief);
