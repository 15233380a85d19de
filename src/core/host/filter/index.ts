import { packRules } from '../everyPack';
import type { HostKind } from '../kind';
import { soundRules } from '../soundRules';
import type { FilterScene } from './scene';
import { SETTINGS_PATH } from './settings';

/** An AR filter's life with sound: it begins muted, waits for a tap, and says nothing of files that it does not take. */
export const filterStage: HostKind<FilterScene> = {
  id: 'filter',
  version: 1,
  title: 'Filter stage',
  about: 'A filter on a phone camera, that plays sounds when somebody taps, blinks or waves.',
  briefId: 'ar-filter',
  rules: {
    ...packRules,
    ...soundRules,
    sounds: 'sounds',
    others: 'other files',
    settings: 'what to set in the host',
  },
  isMeant: ({ files }) =>
    files.some(({ path }) => path === SETTINGS_PATH || path.toLowerCase().endsWith('.m4a')),
  take: async (pack, checking) => (await import('./take')).takeFilter(pack, checking),
  changes: (before, now) =>
    JSON.stringify(before) === JSON.stringify(now)
      ? []
      : ['The pack says other things of what is to be set.'],
};
