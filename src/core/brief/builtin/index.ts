import type { Brief } from '../schema';
import { arFilter } from './arFilter';
import { wavMaster } from './wavMaster';
import { webPage } from './webPage';

/** The briefs that come with Bijou. */
export const builtinBriefs: readonly Brief[] = [arFilter, webPage, wavMaster];
